import { signTest } from './distributions';
import type { Observation, Of } from './observation';
import { ALPHA, percent, pText } from './words';

/** What one chain was worth in the pairs that were heard twice, as shares of choices from 0 to 1, ties as halves. */
export interface ChainShift {
  chain: string;
  pairs: number;
  blind: number;
  sighted: number;
}

/** What names and prices changed: the same pairs of the same listeners, blind and then with both in view. */
export interface SightedShift {
  listeners: number;
  pairs: number;
  /** Answered the same both times. */
  same: number;
  /** Pairs in which one costs more, and the share of choices that went to it, ties as halves; null where there is none. */
  dearer: { pairs: number; blind: number; sighted: number } | null;
  /** Listeners whose choices went to the dearer ones more often with names than blind, and the reverse. */
  towards: number;
  away: number;
  /** Exact two-sided sign test over the listeners who moved at all; null where nobody did. */
  pValue: number | null;
  /** Chains in the order given. */
  chains: ChainShift[];
}

const halves = { a: 1, tie: 0.5, b: 0 };
const mean = (values: readonly number[]) =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/**
 * Holds what was said with names and prices in view against what the same listener said of the same trial blind.
 * Listeners are the units: what one of them says in several pairs hangs together. After Conover (1999), the sign test.
 * @param observations of one sitting; "judged" and "sighted" ones of pairs are looked at
 * @param chains in the order in which they are reported
 * @param priceOf what a chain costs, in any unit; null where that is not known
 * @returns null where nothing was answered twice
 */
export function sightedShift(
  observations: readonly Observation[],
  chains: readonly string[],
  priceOf: (chain: string) => number | null,
): SightedShift | null {
  const trialOf = ({ listener, trial }: Observation) => JSON.stringify([listener, trial]);
  const pairsIn = (role: Observation['role']) =>
    observations.filter((one): one is Of<'pair'> => one.kind === 'pair' && one.role === role);
  const blindOf = new Map(pairsIn('judged').map((one) => [trialOf(one), one]));
  const both = pairsIn('sighted').flatMap((sighted) => {
    const blind = blindOf.get(trialOf(sighted));
    return blind ? [{ blind, sighted }] : [];
  });
  if (both.length === 0) return null;
  /** How far a choice went to a chain of its pair. */
  const share = ({ chain, response }: Of<'pair'>, wanted: string) =>
    chain === wanted ? halves[response] : 1 - halves[response];
  const priced = both.flatMap(({ blind, sighted }) => {
    const [own, other] = [priceOf(blind.chain), priceOf(blind.chainB)];
    if (own === null || other === null || own === other) return [];
    const dearer = own > other ? blind.chain : blind.chainB;
    const shares = { blind: share(blind, dearer), sighted: share(sighted, dearer) };
    return [{ listener: blind.listener, ...shares }];
  });
  const moved = new Map<string, number>();
  for (const { listener, blind, sighted } of priced) {
    moved.set(listener, (moved.get(listener) ?? 0) + sighted - blind);
  }
  const towards = [...moved.values()].filter((by) => by > 0).length;
  const away = [...moved.values()].filter((by) => by < 0).length;
  return {
    listeners: new Set(both.map(({ blind }) => blind.listener)).size,
    pairs: both.length,
    same: both.filter(({ blind, sighted }) => blind.response === sighted.response).length,
    dearer:
      priced.length === 0
        ? null
        : {
            pairs: priced.length,
            blind: mean(priced.map(({ blind }) => blind)),
            sighted: mean(priced.map(({ sighted }) => sighted)),
          },
    towards,
    away,
    pValue: towards + away === 0 ? null : signTest(towards, towards + away),
    chains: chains.flatMap((chain) => {
      const own = both.filter(({ blind }) => blind.chain === chain || blind.chainB === chain);
      if (own.length === 0) return [];
      return [
        {
          chain,
          pairs: own.length,
          blind: mean(own.map(({ blind }) => share(blind, chain))),
          sighted: mean(own.map(({ sighted }) => share(sighted, chain))),
        },
      ];
    }),
  };
}

/** What looks and price were worth to this panel, in a sentence, with what it does not show. */
export function sightedFinding({ dearer, towards, away, pValue }: SightedShift): string {
  if (!dearer) return 'No pair that was heard with names had one that costs more.';
  const before = `With names and prices in view the dearer of a pair took ${percent(dearer.sighted)} of the choices, blind ${percent(dearer.blind)} of the same`;
  if (pValue === null) return `${before}; no listener moved on balance.`;
  const who = `${towards} of the listeners moved towards the dearer, ${away} away from it (${pText(pValue)})`;
  if (pValue >= ALPHA) return `${before}; ${who}, which chance alone would explain.`;
  return `${before}; ${who}: looks and price drew this panel ${towards > away ? 'towards the dearer' : 'away from the dearer'}.`;
}
