import { sortedNames } from '@/core/text/order';
import { bestOfRatings, type BestSet } from '../best';
import type { Of } from '../observation';
import type { Verdict } from '../sections/section';
import { type Findings, plainly, type RatedWords } from '../findings';
import { type Claim, claimText, holds } from '../claims';
import { list } from '../words';
import { headlineOfRatings, type RatingAnalysis } from './analyze';

const USUAL: RatedWords = { highest: 'stands highest', lowest: 'lowest', best: 'is placed best' };

/** The headline's test, and who would be named, of places alone. */
export function ratingVerdict(rows: readonly Of<'rating'>[]): Verdict {
  return {
    p: rows.length === 0 ? null : headlineOfRatings(rows),
    named() {
      const winner = bestOfRatings(rows, null)?.winner ?? null;
      return winner === null ? [] : [winner];
    },
  };
}

/** Among whom the best is, where the headline holds: one chain, several, or none where nobody stands out. */
export function ratingLeaders({ chains }: RatingAnalysis, best: BestSet | null): string[] {
  if (best?.winner) return [best.winner];
  // By name: none of them is said to be before another.
  return best && best.notShownWorse.length < chains.length ? sortedNames(best.notShownWorse) : [];
}

/** What places on a line say; the best is named only where all others are shown worse. */
export function ratingFindings(
  analysis: RatingAnalysis,
  best: BestSet | null,
  claim: Claim,
  said: RatedWords = USUAL,
): Findings {
  if (analysis.chains.length < 2) return plainly('There are too few ratings to compare.');
  if (claim.p === null)
    return plainly('There are too few ratings to say whether any chain differs.');
  if (!holds(claim)) {
    return plainly(`No difference between the chains was shown (${claimText(claim)}).`);
  }
  const ranked = [...analysis.chains].sort((x, y) => y.adjustedMean - x.adjustedMean);
  const first = ranked[0]!;
  const last = ranked[ranked.length - 1]!;
  const places = `${first.chain} ${said.highest} at ${first.adjustedMean.toFixed(0)} of 100, ${last.chain} ${said.lowest} at ${last.adjustedMean.toFixed(0)}`;
  const leaders = ratingLeaders(analysis, best);
  if (leaders.length === 1) {
    return plainly(`${leaders.join('')} ${said.best} (${claimText(claim)}): ${places}.`);
  }
  const among = leaders.length > 1 ? ` The best is one of ${list(leaders)}.` : '';
  return plainly(`The chains differ (${claimText(claim)}): ${places}.${among}`);
}
