import type { Claim } from './claims';

/** Something a reader of the figures has to know. */
export interface Warning {
  code: string;
  /** Id of a section, or "input". */
  section: string;
  message: string;
  /** Up to ten row numbers of the file; the header is row 1. */
  rows?: number[];
}

/** How it is said that a chain stands at an end of a line. */
export interface RatedWords {
  /** As in "X stands highest at 80 of 100". */
  highest: string;
  /** As in "Y lowest at 20". */
  lowest: string;
  /** As in "X is placed best". */
  best: string;
}

/** Whom and what a result is about, for its sentences. */
export interface Panel {
  listeners: number;
  answers: number;
  source: string;
  passage: string;
  /** Where places on a line were given. */
  said: RatedWords | null;
  /** What the part may claim beside the others. */
  claim: Claim;
}

/** What a section says, in plain words; the strongest claim it supports and no more. */
export interface Findings {
  /** One sentence: the finding itself. */
  headline: string;
  /** The numbers behind it; '' where the headline has them. */
  detail: string;
  /** Further observations: order effect, consistency, cautions. */
  remarks: string[];
  /** What the result does not show. */
  limits: string[];
}

/** The same, without anything to add. */
export const plainly = (headline: string): Findings => ({
  headline,
  detail: '',
  remarks: [],
  limits: [],
});

/** What no comparison shows, however clear it is. */
export const limitsOf = ({ source, passage }: Pick<Panel, 'source' | 'passage'>): string[] => [
  `It holds for ${source}, ${passage}, this room and this panel; it says nothing of other voices or songs.`,
  'A preference is not a fact about the gear: it includes distance, position and the performance of these takes.',
];

/** Figures, and what a reader has to know beside them. */
export interface Computed<Result> {
  result: Result;
  warnings: Warning[];
}
