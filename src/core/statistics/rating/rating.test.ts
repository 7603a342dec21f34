import { Random } from '@/core/signal/random';
import { analyzeRatings } from './analyze';
import type { PlacedChain } from './cells';
import { fitMixedModel, solveMixedModel } from './mixed-model';
import { signedRankP } from './signed-rank';
import { midRanks } from '../ranks';

describe('Wilcoxon’s signed rank test', () => {
  it('is exact for few, with ties and zeros', () => {
    // All of five positive: 2 / 2⁵. Sums of ranks up to 8 of ten: 25 of 1024 subsets a side (Wilcoxon 1945, table 1).
    expect(signedRankP([1, 2, 3, 4, 5])).toBeCloseTo(2 / 32, 12);
    expect(signedRankP([-1, 2, 3, 4, 5, 6, -7, 8, 9, 10])).toBeCloseTo((2 * 25) / 1024, 12);
    expect(signedRankP([0, 0])).toBe(1);
    // Three alike, one against: the sum 7.5 or more comes from two of sixteen signs with the four kept.
    expect(signedRankP([1, 1, 1, 2, 0])).toBeCloseTo(2 / 16, 12);
  });

  it('goes over to the normal distribution without a leap', () => {
    const random = new Random(4);
    const values = Array.from({ length: 49 }, () => random.normal() + 0.3);
    const exact = signedRankP(values);
    const normal = signedRankP([...values, 1e-6]);
    expect(Math.abs(exact - normal)).toBeLessThan(0.01);
  });
});

it('ranks ties at their middle', () => {
  expect(midRanks([30, 10, 20, 10])).toEqual([4, 1.5, 3, 1.5]);
});

/** Ratings of a complete panel. */
function ratings(table: readonly (readonly number[])[]): PlacedChain[] {
  return table.flatMap((row, g) =>
    row.map((value, j) => ({
      listener: `L${g}`,
      chain: 'ABCDEFGH'[j]!,
      value,
      source: '',
      context: '',
      replicate: 1,
    })),
  );
}

describe('the mixed model', () => {
  it('is the analysis of variance where everybody rated everything', () => {
    const table = [
      [9, 2, 5],
      [10, 5, 6],
      [8, 1, 2],
      [11, 6, 4],
    ];
    // By hand: grand mean 5.75, chains 9.5, 3.5, 4.25; listeners 16/3, 7, 11/3, 7.
    const between = 4 * ((9.5 - 5.75) ** 2 + (3.5 - 5.75) ** 2 + (4.25 - 5.75) ** 2);
    const people = 3 * ((16 / 3 - 5.75) ** 2 + 2 * (7 - 5.75) ** 2 + (11 / 3 - 5.75) ** 2);
    const all = table.flat().reduce((sum, x) => sum + (x - 5.75) ** 2, 0);
    const residual = (all - between - people) / 6;
    const model = analyzeRatings(ratings(table), [], null).analysis.mixedModel;
    expect(model?.varResidual).toBeCloseTo(residual, 9);
    expect(model?.varListener).toBeCloseTo((people / 3 - residual) / 3, 9);
    expect(model?.fTest.F).toBeCloseTo(between / 2 / residual, 9);
    expect(model?.fTest).toMatchObject({ df1: 2, df2: 6 });
  });

  it('finds the variances that made the values, with a third of them missing', () => {
    const random = new Random(10);
    const groups = Array.from({ length: 400 }, () => {
      const own = 8 * random.normal();
      const heard = [0, 1, 2, 3].filter(() => random.uniform() < 0.67);
      return {
        rows: heard.map((j) => [0, 1, 2, 3].map((i) => (i === j ? 1 : 0))),
        values: heard.map((j) => 40 + 5 * j + own + 6 * random.normal()),
      };
    });
    const fit = fitMixedModel(groups, 4);
    expect(Math.sqrt(fit?.varListener ?? 0)).toBeCloseTo(8, 0);
    expect(Math.sqrt(fit?.varResidual ?? 0)).toBeCloseTo(6, 0);
    const ratio = (fit?.varListener ?? 0) / (fit?.varResidual ?? 1);
    expect(solveMixedModel(groups, 4, ratio)).toEqual(
      fit?.beta.map((value) => expect.closeTo(value, 9) as number),
    );
  });

  it('holds the listeners’ variance at nothing rather than below', () => {
    // Everybody's ratings add up to the same.
    const fit = analyzeRatings(
      ratings([
        [1, 2, 3],
        [3, 1, 2],
        [2, 3, 1],
        [1, 3, 2],
      ]),
      [],
      null,
    );
    expect(fit.analysis.mixedModel?.varListener).toBe(0);
  });

  it('is not made where nothing is left to judge by', () => {
    const exact = analyzeRatings(
      ratings([
        [1, 2],
        [2, 3],
        [5, 6],
      ]),
      [],
      null,
    );
    expect(exact.analysis).toMatchObject({ mixedModel: null, chains: [{ se: null }, {}] });
    expect(analyzeRatings(ratings([[1, 2]]), [], null).analysis).toMatchObject({
      mixedModel: null,
      friedman: null,
      headlineTest: null,
      icc: null,
    });
  });
});

it('counts what was placed again for repeatability, and for nothing else', () => {
  const once = ratings([
    [10, 50],
    [20, 60],
    [30, 75],
  ]);
  const again = [{ ...once[0]!, value: 14, replicate: 2 }];
  const [plain, repeated] = [[], again].map((more) => analyzeRatings(once, more, null).analysis);
  expect(repeated!.repeatability).toMatchObject([{ listener: 'L0', df: 1, correlation: null }]);
  expect(repeated!.repeatability[0]!.sdOfReplicates).toBeCloseTo(Math.sqrt(8), 12);
  expect({ ...repeated, repeatability: [] }).toEqual(plain);
});

it('says what makes the figures weak', () => {
  const codes = (rows: PlacedChain[]) =>
    analyzeRatings(rows, [], null).warnings.map(({ code }) => code);
  expect(
    codes(
      ratings([
        [1, 2],
        [3, 4],
      ]),
    ),
  ).toEqual(['few-listeners', 'posthoc-floor']);
  const six = ratings(Array.from({ length: 6 }, (_, g) => [g, 50 + g * g]));
  expect(codes(six)).toEqual([]);
  expect(codes(six.slice(1))).toEqual(['incomplete-listeners', 'posthoc-floor']);
  expect(codes([...six, { ...six[0]!, source: 'cello' }])).toEqual(['unbalanced-sources']);
  expect(codes(six.map((row) => ({ ...row, value: 7 })))).toContain('no-variation');
});
