import { crossCorrelation, nextPowerOfTwo } from '@/core/signal/fft';
import { blockOf, type Sound } from '@/core/signal/sound';

const HOP_S = 0.005;

/**
 * Delay between two performances of the same music, from the rise of their envelopes: for takes
 * recorded one after another, where no sample-exact delay exists. Resolution about 5 ms.
 * @returns samples, positive when `other` is late
 */
export function findOnsetDelay(
  reference: Sound,
  other: Sound,
  sampleRateHz: number,
  searchS: number,
): number {
  const hop = Math.max(1, Math.round(HOP_S * sampleRateHz));
  const a = rises(reference, hop);
  const b = rises(other, hop);
  const maxLag = Math.min(Math.round(searchS / HOP_S), Math.max(a.length, b.length) - 1);
  const size = nextPowerOfTwo(Math.max(4, a.length + b.length));
  const correlation = crossCorrelation(a, b, size);
  let best = 0;
  const at = (lag: number) => correlation[(lag + size) % size]!;
  for (let lag = -maxLag; lag <= maxLag; lag++) if (at(lag) > at(best)) best = lag;
  return best * hop;
}

/** Growth of the level from hop to hop, in dB, falls left out; levels under -50 dB of the top do not count. */
function rises(sound: Sound, hop: number): Float64Array {
  const count = Math.floor(sound.frames / hop);
  const power = new Float64Array(count);
  const room = blockOf(sound.channels, hop);
  for (let i = 0; i < count; i++) {
    sound.read(i * hop, room);
    for (const samples of room) for (const x of samples) power[i]! += x * x;
  }
  let top = 0;
  for (const value of power) if (value > top) top = value;
  const level = power.map((value) => 10 * Math.log10(Math.max(value, top * 1e-5, 1e-30)));
  return level.map((value, i) => (i < 2 ? 0 : Math.max(0, value - level[i - 2]!)));
}
