import type { Candidate } from './against';
import type { WordCounts } from './attributes';
import type { Audibility } from './audibility';
import type { Best } from './best';
import type { Consistency } from './consistency';
import type { Controls } from './controls';
import type { PairAnalysis } from './pair/analyze';
import type { RatingAnalysis } from './rating/analyze';
import type { FromMemory } from './recall';

/** What each section gives. */
export interface Results {
  pair: PairAnalysis | null;
  rating: RatingAnalysis | null;
  audibility: Audibility[];
  attributes: WordCounts[];
  recall: FromMemory | null;
  against: Candidate[];
  best: Best;
  consistency: Consistency | null;
  controls: Controls;
}
export type SectionId = keyof Results;
