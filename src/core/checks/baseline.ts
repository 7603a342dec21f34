import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { shapeDistanceDb } from '@/core/spectrum/closest';

/** One take of a performance, in what is compared. */
export interface BaselineTake {
  chain: string;
  loudnessLufs: number | null;
  /** dBFS by third, in the order of `THIRD_OCTAVES`. */
  thirdsDb: readonly (number | null)[];
}

export interface Difference {
  /** Root mean square over the thirds of 80 Hz to 12.5 kHz, level taken out, dB. */
  spectrumDb: number;
  loudnessLu: number;
}

export interface PairBaseline {
  first: string;
  second: string;
  between: Difference;
  /** The larger of the two chains' own differences; null when neither has two takes. */
  within: (Difference & { chain: string }) | null;
  proves: 'something' | 'little' | 'nothing' | 'unknown';
  verdict: string;
}

/** Less than this over the takes' own difference is not told apart from it. */
const CLEARLY = 2;

const { abs, max } = Math;

/** Difference of two takes. @returns null when they have too little in common */
export function takeDifference(a: BaselineTake, b: BaselineTake): Difference | null {
  const spectrumDb = shapeDistanceDb(
    THIRD_OCTAVES.flatMap(({ centerHz }, i) => {
      const [x, y] = [a.thirdsDb[i] ?? null, b.thirdsDb[i] ?? null];
      return x === null || y === null ? [] : [{ centerHz, db: x - y }];
    }),
  );
  if (spectrumDb === null || a.loudnessLufs === null || b.loudnessLufs === null) return null;
  return { spectrumDb, loudnessLu: abs(a.loudnessLufs - b.loudnessLufs) };
}

function meanDifference(
  as: readonly BaselineTake[],
  bs: readonly BaselineTake[],
): Difference | null {
  const found: Difference[] = [];
  as.forEach((a, i) =>
    bs.forEach((b, j) => {
      if (as === bs && j <= i) return;
      const difference = takeDifference(a, b);
      if (difference) found.push(difference);
    }),
  );
  if (found.length === 0) return null;
  const mean = (of: (d: Difference) => number) =>
    found.reduce((sum, d) => sum + of(d), 0) / found.length;
  return {
    spectrumDb: mean(({ spectrumDb }) => spectrumDb),
    loudnessLu: mean(({ loudnessLu }) => loudnessLu),
  };
}

const shown = (db: number) => `${db.toFixed(1)} dB`;

/**
 * Sets the difference between two chains against the difference between two takes of one of them,
 * for every pair of chains. Where the second is as large, the first proves nothing.
 */
export function takeBaseline(takes: readonly BaselineTake[]): PairBaseline[] {
  const chains = [...new Set(takes.map(({ chain }) => chain))];
  const of = new Map(chains.map((name) => [name, takes.filter(({ chain }) => chain === name)]));
  const own = new Map(
    chains.map((name) => {
      const mine = of.get(name) ?? [];
      return [name, meanDifference(mine, mine)];
    }),
  );
  const pairs: PairBaseline[] = [];
  chains.forEach((first, i) =>
    chains.slice(i + 1).forEach((second) => {
      const between = meanDifference(of.get(first) ?? [], of.get(second) ?? []);
      if (!between) return;
      const candidates = [first, second].flatMap((chain) => {
        const difference = own.get(chain);
        return difference ? [{ ...difference, chain }] : [];
      });
      const within =
        candidates.length === 0
          ? null
          : candidates.reduce((a, b) => (b.spectrumDb > a.spectrumDb ? b : a));
      pairs.push({ first, second, between, within, ...judged(first, second, between, within) });
    }),
  );
  return pairs;
}

function judged(
  first: string,
  second: string,
  between: Difference,
  within: PairBaseline['within'],
): Pick<PairBaseline, 'proves' | 'verdict'> {
  if (!within) {
    return {
      proves: 'unknown',
      verdict: `${first} and ${second} differ by ${shown(between.spectrumDb)}; neither has a second take to set that against.`,
    };
  }
  const numbers = `${shown(within.spectrumDb)} between its takes, ${shown(between.spectrumDb)} between the chains`;
  if (within.spectrumDb >= between.spectrumDb) {
    return {
      proves: 'nothing',
      verdict: `The takes of ${within.chain} differ more than ${first} and ${second} do (${numbers}): this pair proves nothing. Record more takes, or capture both at once.`,
    };
  }
  if (between.spectrumDb < CLEARLY * max(within.spectrumDb, 1e-9)) {
    return {
      proves: 'little',
      verdict: `${first} and ${second} differ not much more than the takes of ${within.chain} do (${numbers}): believe this pair only with several takes.`,
    };
  }
  return {
    proves: 'something',
    verdict: `${first} and ${second} differ clearly more than the takes of ${within.chain} do (${numbers}).`,
  };
}
