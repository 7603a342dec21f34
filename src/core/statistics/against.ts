import { sortedNames } from '@/core/text/order';
import { holm, quantile, signTest, twoSidedP } from './distributions';
import type { Of } from './observation';
import { deviationOf, meanOf } from './rating/cells';
import { type Findings, plainly } from './findings';
import { ALPHA, list, pText } from './words';
import { type Claim, holds } from './claims';

/** How far a candidate was placed from where the same listeners placed the hidden reference, points of the scale. */
export interface Candidate {
  reference: string;
  chain: string;
  listeners: number;
  /** Of those, who also placed the reference hidden among the candidates; for the others it stands at 50. */
  listenersWithHidden: number;
  difference: number;
  ci95: [number, number] | null;
  /** t over listeners; null for fewer than six. */
  p: number | null;
  pHolm: number | null;
}

/** Where "as good as the reference" stands. */
const ALIKE = 50;
export const FEWEST_LISTENERS = 6;
const NOTHING = 1e-12;

/** Each candidate against the hidden reference of the same listeners, Holm over the candidates. */
export function analyzeAgainst(rows: readonly Of<'rating'>[]): Candidate[] {
  const candidates = sortedNames(
    rows.flatMap(({ role, chain, against }) =>
      role === 'judged' && chain !== against ? [JSON.stringify([against, chain])] : [],
    ),
  );
  const entries = candidates.map((key) => {
    const [reference, chain] = JSON.parse(key) as [string, string];
    const of = (name: string, role: string) => {
      const values = new Map<string, number[]>();
      for (const one of rows) {
        if (one.against !== reference || one.chain !== name || one.role !== role) continue;
        values.set(one.listener, [...(values.get(one.listener) ?? []), one.value]);
      }
      return values;
    };
    const hidden = of(reference, 'self');
    const own = [...of(chain, 'judged')];
    const differences = own.map(
      ([listener, values]) => meanOf(values) - meanOf(hidden.get(listener) ?? [ALIKE]),
    );
    const n = differences.length;
    const difference = meanOf(differences);
    const spread = deviationOf(differences);
    const error = spread === null ? null : spread / Math.sqrt(n);
    const width = error === null ? 0 : quantile(0.975, n - 1) * error;
    return {
      reference,
      chain,
      listeners: n,
      listenersWithHidden: own.filter(([listener]) => hidden.has(listener)).length,
      difference,
      ci95: error === null ? null : ([difference - width, difference + width] as [number, number]),
      p: n < FEWEST_LISTENERS || error === null ? null : tTest(difference, error, n),
    };
  });
  const pHolm = holm(entries.map(({ p }) => p));
  return entries.map((entry, i) => ({ ...entry, pHolm: pHolm[i]! }));
}

function tTest(difference: number, error: number, n: number): number {
  if (error > NOTHING) return twoSidedP(difference / error, n - 1);
  // All gave the same: their signs are what can be tested.
  return Math.abs(difference) < NOTHING ? 1 : signTest(n, n);
}

export function againstFindings(rows: readonly Candidate[], claim: Claim): Findings | null {
  if (rows.length === 0) return null;
  const most = Math.max(...rows.map(({ listeners }) => listeners));
  if (most < FEWEST_LISTENERS) {
    const who = most === 1 ? 'One listener' : `${most} listeners`;
    return plainly(
      `${who}: too few for a verdict against the reference, which needs ${FEWEST_LISTENERS}.`,
    );
  }
  const shown = holds(claim) ? rows.filter(({ pHolm }) => pHolm !== null && pHolm < ALPHA) : [];
  const named = (sign: number) =>
    shown
      .filter(({ difference }) => Math.sign(difference) === sign)
      .sort((x, y) => Math.abs(y.difference) - Math.abs(x.difference))
      .map(({ chain, pHolm }) => `${chain} (${pText(pHolm ?? 1)})`);
  const [above, below] = [named(1), named(-1)];
  const said = [
    ...(above.length > 0 ? [`above the reference: ${list(above)}`] : []),
    ...(below.length > 0 ? [`below the reference: ${list(below)}`] : []),
  ];
  return plainly(
    said.length === 0
      ? 'No candidate was shown to be placed above or below the reference.'
      : `Placed ${said.join('; ')}.`,
  );
}
