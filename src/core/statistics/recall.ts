import { clopperPearson, exactUpperTail } from './distributions';
import type { Recall } from './observation';
import { type Findings, plainly } from './findings';
import { type Claim, claimText, holds } from './claims';

export interface FromMemory {
  n: number;
  correct: number;
  proportion: number;
  /** Exact test against guessing, which is right in one of two. */
  pOneSided: number;
  ci95: [number, number];
}

export function analyzeRecall(own: readonly Pick<Recall, 'correct'>[]): FromMemory {
  const correct = own.filter((one) => one.correct).length;
  return {
    n: own.length,
    correct,
    proportion: correct / own.length,
    pOneSided: exactUpperTail(correct, own.length, 0.5),
    ci95: clopperPearson(correct, own.length),
  };
}

export function recallFindings({ correct, n }: FromMemory, claim: Claim): Findings {
  const figures = `${correct} of ${n} right, ${claimText(claim)}`;
  return plainly(
    holds(claim)
      ? `The two are told apart from memory (${figures}).`
      : `It was not shown that the two are told apart from memory (${figures}).`,
  );
}
