import { THIRD_OCTAVES } from './bands';

/** Neighbouring thirds in which chains differ from the others the same way. */
export interface BandRange {
  /** Centres of its first and last third. */
  fromHz: number;
  toHz: number;
  /** Where it is largest, dB; level-matched, so 0 is what loudness alone would give. */
  differenceDb: number;
}

/** What chains that a word goes with have in common in their spectra. */
export interface WordBands {
  chains: string[];
  ranges: BandRange[];
}

/** Smaller differences are not told. */
const LEAST_DB = 1.5;
/** Below and above, a level-matched clip carries little but noise. */
const [LOWEST_HZ, HIGHEST_HZ] = [80, 12_500];

const meanOf = (values: readonly number[]) =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/**
 * In which thirds of an octave the chains that a word was ticked for more often than for the average chain differ from
 * the others. Described, never tested: a word may have come of something else.
 * @param counts ticks by chain
 * @param levelsDb by chain, in thirds from 25 Hz on, of level-matched clips; null where a band carries nothing
 * @returns no ranges where either side has no spectrum
 */
export function wordBands(
  counts: Readonly<Record<string, number>>,
  levelsDb: ReadonlyMap<string, readonly (number | null)[]>,
): WordBands {
  const all = Object.keys(counts);
  const average = meanOf(Object.values(counts));
  const chains = all.filter((chain) => counts[chain]! > average);
  const levelsOf = (of: readonly string[], band: number): number[] =>
    of.flatMap((chain) => levelsDb.get(chain)?.[band] ?? []);
  const others = all.filter((chain) => !chains.includes(chain));
  const ranges: BandRange[] = [];
  let open: BandRange | null = null;
  THIRD_OCTAVES.forEach(({ centerHz }, band) => {
    const [own, rest] = [levelsOf(chains, band), levelsOf(others, band)];
    const whole = own.length === chains.length && rest.length === others.length;
    const inside = centerHz >= LOWEST_HZ && centerHz <= HIGHEST_HZ;
    const difference = inside && whole && own.length > 0 ? meanOf(own) - meanOf(rest) : 0;
    if (!(Math.abs(difference) > LEAST_DB)) {
      open = null;
      return;
    }
    if (open && Math.sign(open.differenceDb) === Math.sign(difference)) {
      open.toHz = centerHz;
      if (Math.abs(difference) > Math.abs(open.differenceDb)) open.differenceDb = difference;
      return;
    }
    open = { fromHz: centerHz, toHz: centerHz, differenceDb: difference };
    ranges.push(open);
  });
  return { chains, ranges };
}
