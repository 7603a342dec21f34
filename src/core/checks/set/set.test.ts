import { arrivalCm } from './arrival';
import { checkSet } from './index';
import type { SetFacts, SetTake, ReferenceAlignment } from './set-check';

const related = (change: Partial<ReferenceAlignment> = {}): ReferenceAlignment => ({
  referenceTakeId: 'x',
  delaySamples: 0,
  polarityInverted: false,
  coherence: 0.95,
  driftPpm: null,
  onsetDelayS: null,
  own: null,
  ...change,
});
const take = (chain: string, change: Partial<SetTake> = {}): SetTake => ({
  id: chain,
  chain,
  sampleRateHz: 48000,
  loudnessLufs: -23,
  referenceAlignment: related(),
  ...change,
});
const set = (takes: SetTake[]): SetFacts => ({
  takes,
  chains: [...new Set(takes.map(({ chain }) => chain))],
  temperatureC: 20,
});

it('a metre is 48000 / 343.42 samples at 20 °C', () => {
  expect(arrivalCm(139.77, 48000, 20)).toBeCloseTo(100, 1);
});

describe('all at once', () => {
  it('tells arrival, comb and strangers', () => {
    const remarks = checkSet(
      'at once',
      set([
        take('Kern', { referenceAlignment: null }),
        take('Halde', { referenceAlignment: related({ delaySamples: 48 }) }),
        take('Moor', { referenceAlignment: related({ coherence: 0.02 }) }),
      ]),
    );
    expect(remarks[0]).toContain('Moor does not hold the same performance');
    // 48 samples are a millisecond: 34 cm, first notch at 500 Hz.
    expect(remarks[1]).toContain('Halde 34 cm further');
    expect(remarks[2]).toContain('first notch at 500 Hz');
  });

  it('tells a chain once, by the take that stands furthest, however many it recorded', () => {
    const takes = [24, 48, 36].map((delaySamples) =>
      take('Halde', { referenceAlignment: related({ delaySamples }) }),
    );
    const [away, comb] = checkSet('at once', set([take('Kern'), ...takes]));
    expect(away).toContain('at 20 °C: Halde 34 cm further)');
    expect(comb).toMatch(/recorded, Halde \(first notch at 500 Hz\) would/);
    const cut = [9600, 4800].map((delaySamples) =>
      take('Halde', { referenceAlignment: related({ delaySamples }) }),
    );
    expect(checkSet('at once', set([take('Kern'), ...cut]))[0]).toMatch(
      /are Halde by 200 ms against/,
    );
  });

  it('does not take a file that was cut for a distance', () => {
    const [remark, ...rest] = checkSet(
      'at once',
      set([
        take('Kern', { referenceAlignment: null }),
        // A fifth of a second would be 69 m.
        take('Halde', { referenceAlignment: related({ delaySamples: 9600 }) }),
      ]),
    );
    expect(remark).toContain('Halde by 200 ms');
    expect(remark).toContain('the beginning of a file was cut');
    expect(remark).not.toContain('cm');
    expect(rest.join(' ')).not.toContain('cm');
  });

  it('has nothing to say where all is well', () => {
    expect(
      checkSet('at once', set([take('Kern', { referenceAlignment: null }), take('Halde')])),
    ).toEqual([]);
    expect(checkSet('at once', set([]))).toEqual([]);
  });
});

describe('one after another', () => {
  it('asks for a second take, and sees the performance drift', () => {
    const one = checkSet('one after another', set([take('Kern'), take('Kern'), take('Halde')]));
    expect(one).toEqual([expect.stringContaining('Halde has one take only')]);
    const tiring = ['Kern', 'Halde', 'Moor', 'Kern', 'Halde', 'Moor'].map((chain, i) =>
      take(chain, { loudnessLufs: -20 - 0.5 * i }),
    );
    // Half a loudness unit from take to take, five steps.
    expect(checkSet('one after another', set(tiring))).toEqual([
      expect.stringContaining('became 2.5 LU quieter'),
    ]);
  });
});

describe('replayed', () => {
  it('wants one chain twice, and wants it to agree', () => {
    expect(checkSet('replayed', set([take('Kern'), take('Halde')]))[0]).toContain(
      'Nothing was played twice',
    );
    const again = (own: ReferenceAlignment['own']) =>
      checkSet(
        'replayed',
        set([take('Kern'), take('Kern', { referenceAlignment: related({ own }) })]),
      );
    expect(again({ coherence: 0.999, levelDb: 0.02 })).toEqual([]);
    // What is left of 1 - 0.9 is -10 dB.
    expect(again({ coherence: 0.9, levelDb: 0.02 })[0]).toContain('−10 dB left');
    expect(again({ coherence: 0.999, levelDb: 0.6 })[0]).toContain('0.6 dB apart');
  });
});
