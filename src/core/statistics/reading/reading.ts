import type { Audibility } from '../audibility';
import type { ChainsFile } from '../chains-file';
import type { Computed } from '../findings';
import type { Of } from '../observation';
import type { PairRow } from '../pair/tests';
import type { RatingAnalysis } from '../rating/analyze';
import type { ReadingPlan } from './plan-file';

export type Read<Result> = Computed<Result>;

/** What was judged, by kind. */
export interface ReadingRows {
  pair: readonly Of<'pair'>[];
  rating: readonly Of<'rating'>[];
  forced: readonly Of<'forced'>[];
}

/** What a reading is given beside its rows. */
export interface ReadingAsked {
  /** Null without a file of chains. */
  chains: ChainsFile | null;
  plan: ReadingPlan;
  seed: number;
}

/** What the analysis of each task says, which several sections rest on. */
export interface Tested {
  pairs: PairRow[];
  /** Of the headline's test; null where there is none. */
  pairP: number | null;
  ratings: RatingAnalysis | null;
  audibility: Audibility[];
}
