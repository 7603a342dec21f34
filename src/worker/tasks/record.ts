import { Random } from '@/core/signal/random';
import { benchRecording } from '@/core/simulation/recording-bench';
import { encodeWav } from '@/core/wav/write';
import type { BenchJob } from '@/steps/takes/recording-bench';

/** One take of the simulated bench, as a 24-bit file. */
export function recordOnBench({ items, take, sampleRateHz }: BenchJob): Uint8Array {
  const { samples } = benchRecording(items, take, sampleRateHz);
  return encodeWav([samples], sampleRateHz, 24, [Random.derived(take.seed, 'dither')]);
}
