import { holm } from './distributions';
import { ALPHA, pText } from './words';

/** What a part of a sitting may claim, beside the other parts. */
export interface Claim {
  /** Of its headline's test, corrected for the other parts; null where no test can speak. */
  p: number | null;
  /** So many headlines were corrected together; 1 where none was. */
  among: number;
  /** False where the primary part was tested and showed nothing: nothing else is claimed then. */
  open: boolean;
}

/** A part that stands alone. */
export const alone = (p: number | null): Claim => ({ p, among: 1, open: true });

/** The smallest of several corrected p: what a headline over all of them rests on. */
export function least(ps: readonly (number | null)[]): number | null {
  const known = ps.filter((p) => p !== null);
  return known.length === 0 ? null : Math.min(...known);
}

/** Whether the headline may be claimed. */
export const holds = ({ p, open }: Claim): boolean => open && p !== null && p < ALPHA;

/**
 * What each part may claim: the primary part at 5 %; the others corrected together (Holm), and only where the primary
 * one holds or has no test that can speak, so that all claims of a sitting share one error of 5 % (a fixed sequence:
 * Maurer, Hothorn & Lehmacher 1995).
 * @param ps of each part's headline; null where it has no test
 * @param primary number of the primary part, from 1; null where none was sealed, so that each part was to be read alone
 */
export function claimsOf(ps: readonly (number | null)[], primary: number | null): Claim[] {
  if (primary === null) return ps.map(alone);
  const first = alone(ps[primary - 1] ?? null);
  const open = first.p === null || holds(first);
  const others = ps.map((p, i) => (i === primary - 1 ? null : p));
  const corrected = holm(others);
  const among = others.filter((p) => p !== null).length;
  return ps.map((_, i) => (i === primary - 1 ? first : { p: corrected[i] ?? null, among, open }));
}

/** The p of a claim as it is written, and what it is corrected for. */
export function claimText({ p, among }: Claim): string {
  return `${pText(p ?? 1)}${among > 1 ? `, corrected for ${among} parts` : ''}`;
}
