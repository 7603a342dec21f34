import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { DOUBTFUL_DB, shapeDistanceDb } from '@/core/spectrum/closest';
import type { Outcome } from './outcome';

/** In how many places a chain came out in each way. */
export type Outcomes = Readonly<Record<Outcome, number>>;

/** What a studio knows of a chain, wherever it stood: the same gear is the same chain. */
export interface RememberedChain {
  key: string;
  name: string;
  /** Its whole price, hundredths of money; null where some of it has none. */
  priceCents: number | null;
  /** In places like the one that is asked about, and in all others. */
  alike: Outcomes;
  elsewhere: Outcomes;
  /** Levels in thirds of an octave of its matched clips, dB, by the set in which they were made. */
  spectra: ReadonlyMap<string, readonly (number | null)[]>;
}

export interface Twin {
  chain: RememberedChain;
  /** A chain that stands before it, and how far their spectra are apart in the same performance, dB. */
  of: RememberedChain;
  apartDb: number;
}

export interface ShortestBench {
  /** Most worth recording, first first. */
  picks: RememberedChain[];
  /** Cheaper than each of them, and never shown behind in such a place; null where there is none. */
  wildcard: RememberedChain | null;
  /** Passed over, since their tone is that of a chain which stands before them. */
  twins: Twin[];
}

/** Chains that are recorded, besides the wildcard. */
const PICKS = 3;
type Levels = readonly (number | null)[];

const led = (of: Outcomes) => of.won + of['may be the best'];
const DEAREST = Number.POSITIVE_INFINITY;

/** How far apart two spectra are, without their level; null with too few bands in common. */
function spectraApartDb(one: Levels, other: Levels): number | null {
  return shapeDistanceDb(
    THIRD_OCTAVES.flatMap(({ centerHz }, i) => {
      const [level, against] = [one[i] ?? null, other[i] ?? null];
      return level === null || against === null ? [] : [{ centerHz, db: level - against }];
    }),
  );
}

/** The least distance over all sets in which both were heard. */
function apart(one: RememberedChain, other: RememberedChain): number | null {
  const all = [...one.spectra].flatMap(([set, levels]) => {
    const against = other.spectra.get(set);
    const db = against ? spectraApartDb(levels, against) : null;
    return db === null ? [] : [db];
  });
  return all.length === 0 ? null : Math.min(...all);
}

/** Each figure decides only between those whose figures before it are the same: nothing is weighed against anything. */
function byMerit(x: RememberedChain, y: RememberedChain): number {
  return (
    led(y.alike) - led(x.alike) ||
    y.alike.won - x.alike.won ||
    x.alike.behind - y.alike.behind ||
    led(y.elsewhere) - led(x.elsewhere) ||
    x.elsewhere.behind - y.elsewhere.behind ||
    (x.priceCents ?? DEAREST) - (y.priceCents ?? DEAREST) ||
    (x.name < y.name ? -1 : Number(x.name > y.name))
  );
}

/** Led in such a place, or elsewhere without ever being behind in such a place. */
const worthIt = ({ alike, elsewhere }: RememberedChain) =>
  led(alike) > 0 || (led(elsewhere) > 0 && alike.behind === 0);

/**
 * Which chains are most worth recording for a voice like others that were heard, and one cheap one that could surprise.
 * First come those that led in most such places, then by how often they won alone, how seldom they were behind, how
 * often they led elsewhere, how seldom they were behind there, and their price. One whose spectrum is that of a chain
 * before it is passed over.
 */
export function shortestBench(all: readonly RememberedChain[]): ShortestBench {
  const picks: RememberedChain[] = [];
  const twins: Twin[] = [];
  for (const chain of all.filter(worthIt).sort(byMerit)) {
    if (picks.length === PICKS) break;
    const nearest = picks
      .flatMap((of) => {
        const apartDb = apart(chain, of);
        return apartDb === null ? [] : [{ chain, of, apartDb }];
      })
      .sort((x, y) => x.apartDb - y.apartDb)[0];
    if (nearest && nearest.apartDb < DOUBTFUL_DB) twins.push(nearest);
    else picks.push(chain);
  }
  const passed = new Set([...picks, ...twins.map(({ chain }) => chain)]);
  const least = Math.min(...picks.map(({ priceCents }) => priceCents ?? DEAREST));
  const [wildcard = null] = all
    .filter((chain) => !passed.has(chain) && chain.alike.behind === 0)
    .filter(({ priceCents }) => priceCents !== null && priceCents < least)
    .sort((x, y) => x.priceCents! - y.priceCents! || (x.name < y.name ? -1 : 1));
  return { picks, wildcard, twins };
}
