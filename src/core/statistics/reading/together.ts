import { sortedNames } from '@/core/text/order';
import { judged, type Observation, ofOneScale } from '../observation';
import { ALPHA, pText } from '../words';
import { type Bridge, type Bridged, pairsAgainst, ratingBridge, readBridge } from './bridge';

/** Counted up whenever the same observations give another reading. */
export const TOGETHER_VERSION = 1;

/** Several sittings set against a reference that all of them heard. */
export interface Together {
  bridge: Bridge;
  /** Each sitting alone, against the same reference; null where it asked nothing of the kind, or no fit links it. */
  each: { sitting: string; pair: Bridged[] | null; rating: Bridged[] | null }[];
}

const chainsOf = (observations: readonly Observation[]) =>
  sortedNames(
    observations.flatMap((one) => ('chainB' in one ? [one.chain, one.chainB] : [one.chain])),
  );

/** Chains that every one of the sittings asked about, in choices or on a line: each may be the reference. */
export function commonChains(sittings: readonly (readonly Observation[])[]): string[] {
  const [first, ...others] = sittings.map((all) =>
    chainsOf(all.filter((one) => judged.pair(one) || judged.rating(one))),
  );
  return (first ?? []).filter((chain) => others.every((chains) => chains.includes(chain)));
}

/**
 * Reads several sittings together (docs/methods.md, section `bridge` of a reading), and each by itself beside it.
 * @param observations of all of them; whoever took part in several is one listener
 * @param reference a chain that all of them heard
 */
export function readTogether(
  observations: readonly Observation[],
  reference: string,
): Together | null {
  const rows = {
    pair: observations.filter(judged.pair),
    rating: ofOneScale(observations.filter(judged.rating)),
    forced: [],
  };
  const { result: bridge } = readBridge(rows, reference);
  if (!bridge) return null;
  return {
    bridge,
    each: bridge.sittings.map((sitting) => {
      const own = <T extends Observation>(all: readonly T[]) =>
        all.filter((one) => one.sitting === sitting);
      const pair = own(rows.pair);
      return {
        sitting,
        pair: pair.length > 0 ? pairsAgainst(pair, reference) : null,
        rating: ratingBridge(own(rows.rating), reference, () => undefined)?.chains ?? null,
      };
    }),
  };
}

/** What the sittings say of each other, in sentences; names in place of ids. */
export function togetherSays({ bridge }: Together): string[] {
  const { pair, rating, reference } = bridge;
  const says: string[] = [];
  if (pair) {
    const p = pair.heterogeneity?.p ?? null;
    if (p === null) says.push('Whether the sittings agree cannot be told: they share too little.');
    else if (p < ALPHA) {
      says.push(
        `The chains stand otherwise from sitting to sitting (${pText(p)}): read each by itself before the sum.`,
      );
    } else {
      says.push(
        `That the chains stand otherwise from sitting to sitting is not shown (${pText(p)}).`,
      );
    }
  }
  for (const { first, second, listeners, difference, pHolm } of rating?.drift ?? []) {
    if (difference === null) {
      says.push(`Nobody placed ${reference} in both ${first} and ${second}: a drift is not known.`);
      continue;
    }
    const moved = `${Math.abs(difference).toFixed(0)} points ${difference < 0 ? 'lower' : 'higher'}`;
    const by = `${reference} stood ${moved} in ${second} than in ${first} for the ${listeners} who placed it in both`;
    if (pHolm === null) says.push(`${by}; too few to test.`);
    else if (pHolm < ALPHA) says.push(`${by} (${pText(pHolm)}): the line was used in another way.`);
    else says.push(`${by}; a drift is not shown (${pText(pHolm)}).`);
  }
  return says;
}
