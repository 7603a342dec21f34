/** Frames that are worked on together: small enough to stay in the processor's cache from step to step. */
export const BLOCK_FRAMES = 2048;

/** Sound that is read stretch by stretch, ±1 = full scale; a whole set need not be unpacked in memory. */
export interface Sound {
  readonly channels: number;
  readonly frames: number;
  /** Fills one array per channel from a frame on; what lies outside of the sound is zero. */
  read(from: number, into: readonly Float64Array[]): void;
}

/** Sound that is written stretch by stretch, too: in memory, or in a file where it is long. */
export interface WritableSound extends Sound {
  /** Puts a block at its place; it must lie within the sound. */
  write(from: number, block: readonly Float64Array[]): void;
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
        const inside = channels[c]!.subarray(start, Math.max(start, from + out.length));
        if (inside.length < out.length) out.fill(0);
        if (inside.length > 0) out.set(inside, start - from);
      }
    },
  };
}

/** Sound of so many channels: those of another, again from the first where it has fewer. */
export function widened(sound: Sound, channels: number): Sound {
  if (channels === sound.channels) return sound;
  return {
    channels,
    frames: sound.frames,
    read: (from, into) => {
      sound.read(from, into.slice(0, sound.channels));
      for (const [c, out] of into.entries()) {
        if (c >= sound.channels) out.set(into[c % sound.channels]!);
      }
    },
  };
}

/** Frames [from, from + length) of every channel, in arrays of their own; zero outside of the sound. */
export function framesOf(sound: Sound, from: number, length: number): Float64Array[] {
  const out = blockOf(sound.channels, length);
  sound.read(from, out);
  return out;
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
