import { type Best, bestOfPairs, bestOfRatings } from '../best';
import type { Read, ReadingAsked, ReadingRows } from './reading';

/** Smallest difference that matters, by task: log odds, and points; null where none was planned. */
export function marginsOf({ plan }: ReadingAsked): { pair: number | null; rating: number | null } {
  const { smallestPreference: x, smallestRating } = plan;
  return {
    pair: x === undefined ? null : Math.log(x / (1 - x)),
    rating: smallestRating ?? null,
  };
}

/** Who may be the best of each task, against the smallest difference that was planned. */
export function readBest({ pair, rating }: ReadingRows, asked: ReadingAsked): Read<Best> {
  const margins = marginsOf(asked);
  const result = {
    rating: rating.length === 0 ? null : bestOfRatings(rating, margins.rating),
    pair: pair.length === 0 ? null : bestOfPairs(pair, margins.pair),
  };
  const missing = (rating.length > 0 && !result.rating) || (pair.length > 0 && !result.pair);
  const message = 'who is best cannot be said from so few listeners, or where somebody always won';
  return {
    result,
    warnings: missing ? [{ code: 'not-defined', section: 'best', message }] : [],
  };
}
