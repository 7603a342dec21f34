import type { ReactNode } from 'react';
import type { Result, ResultPart } from '@/steps/results/service';
import type { Across } from '@/steps/results/across';

/** What stands behind the first view: the evidence, each piece folded to its title. */
export interface FoldProps {
  comparisonId: string;
  result: Result;
  parts: ResultPart[];
  across: Across;
  folds: Folds;
}

/** Which pieces are open; it stands in the address. */
export interface Folds {
  isOpen: (id: string) => boolean;
  toggle: (id: string) => void;
}

export interface Fold {
  /** Its name in the address. */
  id: string;
  /** What it holds or found, in a few words; null where there is nothing of it. */
  title: (props: FoldProps) => string | null;
  View: (props: FoldProps) => ReactNode;
}
