import { BLOCK_FRAMES, blockOf, firstOf, type Sound } from './sound';

/** One step of the way that sound goes, block by block; it keeps what it must remember between blocks. */
export interface Stage {
  /** Frames by which what comes out is behind what went in. */
  readonly latency: number;
  /** Works on a block of at most `BLOCK_FRAMES` in place, one array per channel. */
  run(block: readonly Float64Array[]): void;
}

/** A louder or quieter copy. */
export function amplifier(gain: number): Stage {
  return {
    latency: 0,
    run: (block) => {
      for (const samples of block) for (let n = 0; n < samples.length; n++) samples[n]! *= gain;
    },
  };
}

/**
 * Sends sound through stages; what they are late by is taken out, so that frame n of the result is
 * frame n of the sound.
 * @param sink gets the frames from `skip` on, block by block; the block's memory is used again
 */
export function throughStages(
  sound: Sound,
  stages: readonly Stage[],
  sink: (block: readonly Float64Array[], at: number) => void,
  skip = 0,
): void {
  const room = blockOf(sound.channels);
  const hidden = skip + stages.reduce((sum, { latency }) => sum + latency, 0);
  const until = hidden + sound.frames - skip;
  for (let at = 0; at < until; at += BLOCK_FRAMES) {
    const block = firstOf(room, Math.min(BLOCK_FRAMES, until - at));
    sound.read(at, block);
    for (const stage of stages) stage.run(block);
    const late = Math.max(0, hidden - at);
    if (late >= block[0]!.length) continue;
    const made = late === 0 ? block : block.map((samples) => samples.subarray(late));
    sink(made, at + late - hidden);
  }
}
