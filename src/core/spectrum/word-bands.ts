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

type Levels = ReadonlyMap<string, readonly (number | null)[]>;

/** One chain less the mean of the others, in each third; null where a band carries nothing or is not told. */
export interface OwnSpectrum {
  differenceDb: (number | null)[];
  ranges: BandRange[];
}

/** Some chains less the others, third by third; null where not every one of them has a level. */
function differences(
  chains: readonly string[],
  others: readonly string[],
  levelsDb: Levels,
): (number | null)[] {
  const levelsOf = (of: readonly string[], band: number): number[] =>
    of.flatMap((chain) => levelsDb.get(chain)?.[band] ?? []);
  return THIRD_OCTAVES.map(({ centerHz }, band) => {
    const [own, rest] = [levelsOf(chains, band), levelsOf(others, band)];
    const whole = own.length === chains.length && rest.length === others.length;
    const inside = centerHz >= LOWEST_HZ && centerHz <= HIGHEST_HZ;
    return inside && whole && own.length > 0 && rest.length > 0 ? meanOf(own) - meanOf(rest) : null;
  });
}

/** Neighbouring thirds that differ the same way by more than is worth telling. */
function rangesOf(differenceDb: readonly (number | null)[]): BandRange[] {
  const ranges: BandRange[] = [];
  let open: BandRange | null = null;
  THIRD_OCTAVES.forEach(({ centerHz }, band) => {
    const difference = differenceDb[band] ?? 0;
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
  return ranges;
}

/**
 * In which thirds of an octave the chains that a word was ticked for more often than for the average chain differ from
 * the others. Described, never tested: a word may have come of something else.
 * @param counts ticks by chain
 * @param levelsDb by chain, in thirds from 25 Hz on, of level-matched clips; null where a band carries nothing
 * @returns no ranges where either side has no spectrum
 */
export function wordBands(counts: Readonly<Record<string, number>>, levelsDb: Levels): WordBands {
  const all = Object.keys(counts);
  const average = meanOf(Object.values(counts));
  const chains = all.filter((chain) => counts[chain]! > average);
  const others = all.filter((chain) => !chains.includes(chain));
  return { chains, ranges: rangesOf(differences(chains, others, levelsDb)) };
}

/** @param levelsDb of the same clips as in {@link wordBands} */
export function ownSpectrum(chain: string, all: readonly string[], levelsDb: Levels): OwnSpectrum {
  const others = all.filter((other) => other !== chain);
  const differenceDb = differences([chain], others, levelsDb);
  return { differenceDb, ranges: rangesOf(differenceDb) };
}
