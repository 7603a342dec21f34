import { activeSeconds, nearestTakes, type RepeatedTake } from './nearest-takes';

const take = (id: string, activeS: number | null, loudnessLufs: number | null): RepeatedTake => ({
  id,
  chain: id[0]!,
  activeS,
  loudnessLufs,
});

describe('takes nearest to each other', () => {
  it('are chosen by tempo and loudness over all chains', () => {
    const found = nearestTakes([
      take('a1', 60, -20),
      take('a2', 63, -23),
      take('b1', 66, -26),
      take('b2', 63.1, -23.2),
      take('c1', 62.9, -22.9),
      take('c2', 58, -18),
    ]);
    expect(found?.takeIds).toEqual(['a2', 'b2', 'c1']);
    // Around a2: 63.1 / 63 and 62.9 / 63 are 0.16 % each, 0.2 LU the furthest.
    expect(found?.tempoPercent).toBeCloseTo(0.159, 2);
    expect(found?.loudnessLu).toBeCloseTo(0.2, 9);
  });

  it('weigh two percent of tempo like one unit of loudness', () => {
    const with_ = (...others: RepeatedTake[]) => nearestTakes([take('a1', 100, -20), ...others]);
    // 1.5 % against 1 LU: 0.75 is nearer than 1. 2.5 % against 1 LU: it is not.
    expect(with_(take('b1', 101.5, -20), take('b2', 100, -21))?.takeIds).toEqual(['a1', 'b1']);
    expect(with_(take('b1', 102.5, -20), take('b2', 100, -21))?.takeIds).toEqual(['a1', 'b2']);
  });

  it('are nobody’s choice where there is nothing to choose, or a chain cannot be compared', () => {
    expect(nearestTakes([])).toBeNull();
    expect(nearestTakes([take('a1', 60, -20), take('b1', 61, -20)])).toBeNull();
    expect(nearestTakes([take('a1', 60, -20), take('a2', 61, -20)])).toBeNull();
    const silent = [take('a1', 60, -20), take('a2', 61, -20), take('b1', null, null)];
    expect(nearestTakes(silent)).toBeNull();
  });

  it('have their length from the first to the last sound', () => {
    const peaks = [0, 1, 2, 200, 90, 0, 0, 100, 7, 6, 2, 0];
    // The largest is 200: from 6.25 on it is sound.
    expect(activeSeconds(peaks, 50)).toBeCloseTo(6 / 50, 9);
    expect(activeSeconds([0, 0], 50)).toBeNull();
    expect(activeSeconds([], 50)).toBeNull();
  });
});
