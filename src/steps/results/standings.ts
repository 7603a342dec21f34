import { holds } from '@/core/statistics/claims';
import { type AnsweredPart, placesOf } from '@/core/statistics/reading/answers';
import { ALPHA } from '@/core/statistics/words';
import { placeOf } from './across';
import { ANALYSIS } from './schema';

/** What rows of another version say is made anew from the stored reading. */
export const STANDINGS = `${ANALYSIS}, standings 1`;

/** How one chain stood in one part of a closed sitting; chains by id. */
export interface Standing {
  part: number;
  chainId: string;
  unit: 'share' | 'points' | 'words';
  /** Share of choices or points of the line, with its interval; null where there is none, and for words. */
  value: number | null;
  low: number | null;
  high: number | null;
  /** Whether it may be the best there, and how many may. */
  leads: boolean;
  leaders: number;
  /** Whether anything may be claimed of the place at all. */
  claimed: boolean;
  chains: number;
  listeners: number;
  /** Ticked most, the commonest first. */
  words: { word: string; count: number; differs: boolean }[];
}

const MOST_WORDS = 6;

function liked(part: AnsweredPart): Standing[] {
  const { unit, claimed, chains } = placeOf(part);
  const leaders = chains.filter(({ leads }) => leads).length;
  return chains.map(({ chain, value, from, to, leads }) => ({
    part: part.number,
    chainId: chain,
    unit,
    value,
    low: from,
    high: to,
    leads,
    leaders,
    claimed,
    chains: chains.length,
    listeners: part.listeners,
    words: [],
  }));
}

function described({ number, results, claim, listeners }: AnsweredPart): Standing[] {
  const { attributes } = results;
  const chains = Object.keys(attributes[0]?.counts ?? {});
  const claimed = holds(claim);
  return chains.map((chainId) => ({
    part: number,
    chainId,
    unit: 'words',
    value: null,
    low: null,
    high: null,
    leads: false,
    leaders: 0,
    claimed,
    chains: chains.length,
    listeners,
    words: attributes
      .flatMap(({ word, counts, pHolm }) => {
        const count = counts[chainId] ?? 0;
        const differs = claimed && pHolm !== null && pHolm < ALPHA;
        return count > 0 ? [{ word, count, differs }] : [];
      })
      .sort((x, y) => y.count - x.count)
      .slice(0, MOST_WORDS),
  }));
}

/** Of every place as the results show it, and of every part with words. */
export function standingsOf(parts: readonly AnsweredPart[]): Standing[] {
  const words = parts.filter(({ section }) => section === 'attributes');
  return [...placesOf(parts).flatMap(liked), ...words.flatMap(described)];
}
