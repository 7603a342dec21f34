import { sortedNames } from '@/core/text/order';
import type { Of } from '../observation';
import { once } from '../once';
import { indexJudgements } from '../pair/judgements';
import { likingForFirst, OUTCOME } from '../pair/tests';
import { meanOf } from '../rating/cells';

/** Log odds of pairs or points of ratings; the order in which both are told. */
export type ReadTask = 'pair' | 'rating';
export const READ_TASKS: readonly ReadTask[] = ['pair', 'rating'];

/** What is within it counts as equal when values are ranked or grouped. */
const EQUAL = 1e-7;
/** Strengths within it are level. */
export const LEVEL = 1e-4;

/** By listener, then chain. */
export type Values = Map<string, Map<string, number>>;

/** Means of each listener's ratings. */
export function ratingValues(rows: readonly Of<'rating'>[]): Values {
  const all = new Map<string, Map<string, number[]>>();
  for (const { listener, chain, value } of rows) {
    const own = all.get(listener) ?? new Map<string, number[]>();
    all.set(listener, own);
    const of = own.get(chain);
    if (of) of.push(value);
    else own.set(chain, [value]);
  }
  return new Map(
    [...all].map(([listener, own]) => [
      listener,
      new Map([...own].map(([chain, values]) => [chain, meanOf(values)])),
    ]),
  );
}

/** Mean outcome of each listener against each opponent, corrected for a common liking for the first. */
export class Outcomes {
  private readonly byListener = new Map<string, Map<string, Map<string, number[]>>>();

  static readonly of = once((rows: readonly Of<'pair'>[]) => new Outcomes(rows));

  private constructor(rows: readonly Of<'pair'>[]) {
    const data = indexJudgements(rows);
    const forFirst = likingForFirst(data);
    for (const { listener, a, b, order, response } of data.judgements) {
      const won = OUTCOME[response] - order * forFirst;
      this.add(data.listeners[listener]!, data.chains[a]!, data.chains[b]!, won);
      this.add(data.listeners[listener]!, data.chains[b]!, data.chains[a]!, -won);
    }
  }

  private add(listener: string, chain: string, opponent: string, won: number): void {
    const own = this.byListener.get(listener) ?? new Map<string, Map<string, number[]>>();
    this.byListener.set(listener, own);
    const against = own.get(chain) ?? new Map<string, number[]>();
    own.set(chain, against);
    const all = against.get(opponent);
    if (all) all.push(won);
    else against.set(opponent, [won]);
  }

  get listeners(): string[] {
    return sortedNames(this.byListener.keys());
  }

  met(listener: string, chain: string, opponent: string): boolean {
    return this.byListener.get(listener)?.get(chain)?.has(opponent) ?? false;
  }

  /** Net share: mean over the opponents that count; null where there is none. */
  share(listener: string, chain: string, counts: (opponent: string) => boolean): number | null {
    const against = this.byListener.get(listener)?.get(chain);
    const means = [...(against ?? [])].flatMap(([opponent, all]) =>
      counts(opponent) ? [meanOf(all)] : [],
    );
    return means.length === 0 ? null : meanOf(means);
  }

  /** Net shares over all opponents. */
  values(): Values {
    return new Map(
      this.listeners.map((listener) => [
        listener,
        new Map(
          [...(this.byListener.get(listener)?.keys() ?? [])].flatMap((chain) => {
            const share = this.share(listener, chain, () => true);
            return share === null ? [] : [[chain, share] as const];
          }),
        ),
      ]),
    );
  }
}

/** Indices in groups, greatest values first; neighbours that count as equal stay together. */
export function grouped(values: readonly number[]): number[][] {
  const order = values.map((_, i) => i).sort((x, y) => values[y]! - values[x]!);
  const groups: number[][] = [];
  order.forEach((i, at) => {
    const before = order[at - 1]!;
    const same = at > 0 && values[before]! - values[i]! <= EQUAL;
    if (same) groups[groups.length - 1]!.push(i);
    else groups.push([i]);
  });
  return groups;
}

/** Ranks 1 … k, smallest first, what counts as equal at its middle. */
export function nearRanks(values: readonly number[]): number[] {
  const ranks = new Array<number>(values.length).fill(0);
  let done = 0;
  for (const group of grouped(values).reverse()) {
    for (const i of group) ranks[i] = done + (group.length + 1) / 2;
    done += group.length;
  }
  return ranks;
}

/** Those level with the greatest; none where some strength is not known. */
export function topOf(rows: readonly { chain: string; strength: number | null }[]): string[] {
  const known = rows.flatMap(({ chain, strength }) =>
    strength === null ? [] : [{ chain, strength }],
  );
  if (known.length < rows.length) return [];
  const greatest = Math.max(...known.map(({ strength }) => strength));
  return sortedNames(
    known.flatMap(({ chain, strength }) => (strength >= greatest - LEVEL ? [chain] : [])),
  );
}
