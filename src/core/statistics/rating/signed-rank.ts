import { midRanks } from '../ranks';
import { twoSidedP } from '../distributions';

/** From so many differences on the normal distribution stands in. */
const EXACT_BELOW = 50;

/** Chance of each sum of positive ranks, ranks doubled so that mid-ranks are whole. */
function exactTails(doubled: readonly number[], sum: number): number {
  const all = doubled.reduce((total, rank) => total + rank, 0);
  const ways = new Float64Array(all + 1);
  ways[0] = 1;
  let reached = 0;
  for (const rank of doubled) {
    reached += rank;
    // From the top, so that each sum is still as it was without this rank.
    for (let s = reached; s >= rank; s--) ways[s] = (ways[s]! + ways[s - rank]!) / 2;
    for (let s = rank - 1; s >= 0; s--) ways[s]! /= 2;
  }
  let [below, above] = [0, 0];
  for (let s = 0; s <= all; s++) {
    if (s <= sum) below += ways[s]!;
    if (s >= sum) above += ways[s]!;
  }
  return Math.min(1, 2 * Math.min(below, above));
}

/**
 * Two-sided p of Wilcoxon's signed rank test (1945): zero differences dropped, mid-ranks for ties; exact over all
 * signs for fewer than 50, else normal with tie and continuity correction. All zero: 1.
 */
export function signedRankP(differences: readonly number[]): number {
  const kept = differences.filter((d) => d !== 0);
  const n = kept.length;
  if (n === 0) return 1;
  const ranks = midRanks(kept.map(Math.abs));
  const positive = kept.reduce((sum, d, i) => sum + (d > 0 ? ranks[i]! : 0), 0);
  if (n < EXACT_BELOW) {
    return exactTails(
      ranks.map((rank) => Math.round(2 * rank)),
      Math.round(2 * positive),
    );
  }
  const ties = new Map<number, number>();
  for (const rank of ranks) ties.set(rank, (ties.get(rank) ?? 0) + 1);
  const tied = [...ties.values()].reduce((sum, t) => sum + t ** 3 - t, 0);
  const spread = Math.sqrt((n * (n + 1) * (2 * n + 1)) / 24 - tied / 48);
  const away = Math.max(0, Math.abs(positive - (n * (n + 1)) / 4) - 0.5);
  return twoSidedP(away / spread, null);
}
