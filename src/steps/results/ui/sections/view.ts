import type { Results } from '@/core/statistics/results';
import type { Findings } from '@/core/statistics/findings';

/** What the picture of a section may show; it is nothing where its result is empty. */
export interface ViewProps {
  results: Results;
  /** All chains of the sitting in their order, so that colours and columns stay. */
  chains: string[];
  findings: Findings;
  /** Whether the part’s headline holds; nothing single is claimed otherwise. */
  claimed: boolean;
  controls: string[];
  /** Of the line that places were given on; null where the task has none. */
  ends: readonly [lower: string, upper: string] | null;
}
