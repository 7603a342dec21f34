import { soundOf } from '@/core/signal/sound';
import { type Stage, throughStages } from '@/core/signal/stage';

/** Whole arrays through stages, into new ones as long as they were. */
export function passed(
  channels: readonly Float64Array[],
  stages: readonly Stage[],
): Float64Array[] {
  const out = channels.map(({ length }) => new Float64Array(length));
  throughStages(soundOf(channels), stages, (block, at) => {
    for (const [c, samples] of block.entries()) out[c]!.set(samples, at);
  });
  return out;
}
