import { readFileSync } from 'node:fs';
import path from 'node:path';
import { disagreements, type Spec } from '@/core/test/expected';
import type { Observation } from '../observation';
import { parseResultsFile } from '../results-file';
import { commonChains, readTogether, togetherSays } from './together';

const FOLDER = path.join(process.cwd(), 'conformance/reading');
const worked = () => {
  const load = (file: string) => readFileSync(path.join(FOLDER, file));
  const spec = JSON.parse(load('11-bridge.expected.json').toString()) as Spec;
  return { spec, ...parseResultsFile(load('11-bridge.csv'), true) };
};

const none = { source: '', passage: '', context: '', part: '1', trial: '1', replicate: 1 };

/** Places on a line of six listeners in two sittings: the reference moves by `moved`, "new" stands 10 above it. */
function placed(moved: number): Observation[] {
  return ['a', 'b', 'c', 'd', 'e', 'f'].flatMap((listener, i) =>
    ['autumn', 'spring'].flatMap((sitting, late) => {
      const at = 40 + i + late * (moved + (i % 2));
      const own: [string, number][] = [
        ['old', at],
        late ? ['new', at + 9 + (i % 3)] : ['other', at - 20],
      ];
      return own.map(([chain, value]): Observation => ({
        ...none,
        kind: 'rating',
        role: 'judged',
        listener,
        sitting,
        chain,
        value,
        against: '',
        scale: '',
      }));
    }),
  );
}

it('sets sittings against their reference as the worked example does', () => {
  const { spec, observations } = worked();
  const together = readTogether(observations, 'chain-01');
  const { bridge } = spec.expect as unknown as { bridge: unknown };
  expect(disagreements(bridge, together?.bridge, '', spec)).toEqual([]);
});

it('reads each sitting by itself beside them all, against the same reference', () => {
  const { observations } = worked();
  const together = readTogether(observations, 'chain-01');
  for (const sitting of ['day 1', 'day 2']) {
    const own = together?.each.find((one) => one.sitting === sitting);
    const rows = observations.filter((one) => one.sitting === sitting && one.kind === 'rating');
    // Where every listener placed a chain, its mean difference is that of plain means.
    const placesOf = (chain: string) =>
      new Map(
        rows.flatMap((one) =>
          one.kind === 'rating' && one.chain === chain ? [[one.listener, one.value] as const] : [],
        ),
      );
    const known = placesOf('chain-01');
    expect(own?.rating).toHaveLength(2);
    for (const { chain, difference } of own?.rating ?? []) {
      const values = placesOf(chain);
      expect(values.size).toBe(known.size);
      const plain = [...values].map(([listener, value]) => value - known.get(listener)!);
      expect(difference).toBeCloseTo(plain.reduce((sum, x) => sum + x, 0) / plain.length, 6);
    }
  }
});

it('links a chain of one sitting to one of another through what both heard', () => {
  const together = readTogether(placed(0), 'old');
  expect(
    together?.bridge.rating?.chains.map(({ chain, difference }) => [chain, difference]),
  ).toEqual([
    ['new', expect.closeTo(10, 6)],
    ['other', expect.closeTo(-20, 6)],
  ]);
  expect(
    together?.each.map(({ sitting, rating }) => [sitting, rating?.map((one) => one.chain)]),
  ).toEqual([
    ['autumn', ['other']],
    ['spring', ['new']],
  ]);
  expect(commonChains([placed(0).slice(0, 2), placed(0).slice(2, 4)])).toEqual(['old']);
});

it('says when the reference itself moved, and when that is not shown', () => {
  // Differences 12, 13, 12, 13, 12, 13: mean 12.5, sd 0.548, t = 55.9 on 5 df.
  expect(togetherSays(readTogether(placed(12), 'old')!)).toEqual([
    expect.stringMatching(
      /^old stood 13 points higher in spring than in autumn for the 6 who placed it in both \(p\s<\s0\.001\): the line was used in another way\.$/,
    ),
  ]);
  const still = placed(0).map((one) =>
    one.kind === 'rating' && one.sitting === 'spring' && one.chain === 'old'
      ? { ...one, value: one.value + (one.listener < 'd' ? 4 : -5) }
      : one,
  );
  expect(togetherSays(readTogether(still, 'old')!)[0]).toContain('a drift is not shown');
});

it('is nothing for one sitting, and says what cannot be told', () => {
  const one = placed(0).filter(({ sitting }) => sitting === 'autumn');
  expect(readTogether(one, 'old')).toBeNull();
  const others = placed(0).map((row) =>
    row.sitting === 'spring' ? { ...row, listener: `${row.listener}2` } : row,
  );
  expect(togetherSays(readTogether(others, 'old')!)).toEqual([
    'Nobody placed old in both autumn and spring: a drift is not known.',
  ]);
});
