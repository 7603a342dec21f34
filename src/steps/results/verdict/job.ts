import type { PackedClip } from '@/steps/match/pack';
import type { VerdictFacts } from './VerdictPage';

/** What a thread needs to write a verdict's file. */
export interface VerdictJob {
  facts: VerdictFacts;
  /** The pair that can be tried, as a listener would get it. */
  clips: Pick<PackedClip, 'audioId' | 'seeds' | 'levelLufs'>[];
  player: string;
}
