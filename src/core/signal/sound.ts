/** Frames that are worked on together: small enough to stay in the processor's cache from step to step. */
export const BLOCK_FRAMES = 2048;

/** Sound that is read stretch by stretch, ±1 = full scale; a whole set need not be unpacked in memory. */
export interface Sound {
  readonly channels: number;
  readonly frames: number;
  /** Fills one array per channel from a frame on; what lies outside of the sound is zero. */
  read(from: number, into: readonly Float64Array[]): void;
}

/** Arrays of equal length, one per channel, as sound. */
export function soundOf(channels: readonly Float64Array[]): Sound {
  const frames = channels[0]!.length;
  return {
    channels: channels.length,
    frames,
    read: (from, into) => {
      for (const [c, out] of into.entries()) {
        const start = Math.max(0, from);
        const part = channels[c]!.subarray(start, Math.max(start, from + out.length));
        if (part.length < out.length) out.fill(0);
        if (part.length > 0) out.set(part, start - from);
      }
    },
  };
}

/** Room for a block of so many channels. */
export function blockOf(channels: number, frames = BLOCK_FRAMES): Float64Array[] {
  return Array.from({ length: channels }, () => new Float64Array(frames));
}

/** The first frames of a block, without copying. */
export function firstOf(block: readonly Float64Array[], frames: number): readonly Float64Array[] {
  return frames === block[0]!.length ? block : block.map((samples) => samples.subarray(0, frames));
}

/** Goes through sound block by block; the block's memory is used again for the next. */
export function eachBlock(
  sound: Sound,
  work: (block: readonly Float64Array[], at: number) => void,
): void {
  const room = blockOf(sound.channels);
  for (let at = 0; at < sound.frames; at += BLOCK_FRAMES) {
    const block = firstOf(room, Math.min(BLOCK_FRAMES, sound.frames - at));
    sound.read(at, block);
    work(block, at);
  }
}
