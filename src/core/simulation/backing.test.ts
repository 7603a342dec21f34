import { backingTrack } from './backing';
import { performance } from './instruments';

const RATE = 8000;

describe('a backing track', () => {
  const track = backingTrack(['cello', 'clarinet'], RATE, 7);

  it('peaks at −6 dBFS and is as long as the longest part', () => {
    const peak = track.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
    expect(20 * Math.log10(peak)).toBeCloseTo(-6.02, 2);
    const lengths = (['cello', 'clarinet'] as const).map(
      (instrument) => performance(instrument, RATE, 7).length,
    );
    expect(track).toHaveLength(Math.max(...lengths));
  });

  it('is the sum of its parts, louder or softer together', () => {
    const [cello, clarinet] = (['cello', 'clarinet'] as const).map((instrument) =>
      performance(instrument, RATE, 7),
    );
    const at = [RATE, 2 * RATE, 3 * RATE];
    const sums = at.map((n) => (cello![n] ?? 0) + (clarinet![n] ?? 0));
    const gains = at.map((n, i) => track[n]! / sums[i]!);
    expect(gains[1]).toBeCloseTo(gains[0]!, 9);
    expect(gains[2]).toBeCloseTo(gains[0]!, 9);
  });

  it('is the same from the same seed, another from another', () => {
    expect(backingTrack(['cello', 'clarinet'], RATE, 7)).toEqual(track);
    expect(backingTrack(['cello', 'clarinet'], RATE, 8)).not.toEqual(track);
  });
});
