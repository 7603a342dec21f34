/** What somebody sees of one of several candidates, and whether it is the one looked for. */
export interface Candidate {
  signs: readonly string[];
  wanted: boolean;
}

/**
 * How often a program that learned from other cases finds what it looks for: it counts how often each sign stood
 * on a wanted candidate, and takes the candidate whose signs speak most for it (naive Bayes).
 * @param learned cases with their answers
 * @param cases candidates of each case, among which it guesses
 * @returns share of cases in which the guess was right, what guessing blindly gives, and how far (in standard
 * deviations) the first lies over the second
 */
export function guessAmong(
  learned: readonly (readonly Candidate[])[],
  cases: readonly (readonly Candidate[])[],
): { found: number; chance: number; sigmas: number } {
  const seen = new Map<string, { wanted: number; other: number }>();
  const totals = { wanted: 0, other: 0 };
  for (const candidate of learned.flat()) {
    const side = candidate.wanted ? 'wanted' : 'other';
    totals[side]++;
    for (const sign of new Set(candidate.signs)) {
      const count = seen.get(sign) ?? { wanted: 0, other: 0 };
      count[side]++;
      seen.set(sign, count);
    }
  }
  const score = ({ signs }: Candidate) =>
    [...new Set(signs)].reduce((sum, sign) => {
      const { wanted, other } = seen.get(sign) ?? { wanted: 0, other: 0 };
      return (
        sum +
        Math.log((wanted + 1) / (totals.wanted + 2)) -
        Math.log((other + 1) / (totals.other + 2))
      );
    }, 0);
  let [right, expected, variance] = [0, 0, 0];
  for (const candidates of cases) {
    const scores = candidates.map(score);
    const most = Math.max(...scores);
    const best = candidates.filter((_, i) => scores[i] === most);
    // Equal scores are decided by lot, so that each counts for its share.
    right += best.filter(({ wanted }) => wanted).length / best.length;
    const chance = candidates.filter(({ wanted }) => wanted).length / candidates.length;
    expected += chance;
    variance += chance * (1 - chance);
  }
  return {
    found: right / cases.length,
    chance: expected / cases.length,
    sigmas: (right - expected) / Math.sqrt(variance),
  };
}
