/** A mark that is given with open eyes: 1 to 5, or whether something is so. */
export const MARK_VALUES = ['1', '2', '3', '4', '5', 'yes', 'no'] as const;
export type MarkValue = (typeof MARK_VALUES)[number];

/** What somebody gave one thing on one criterion. */
export interface Mark {
  by: string;
  value: MarkValue;
}

/** What a chain has on one criterion. */
export interface ChainMark<M extends Mark = Mark> {
  /** 1 to 5, the mean over those who marked. */
  points: number;
  /** Least and most that somebody gave; null where all gave the same. */
  spread: [number, number] | null;
  /** The item whose mark it is; null for one of the chain itself. */
  item: string | null;
  marks: M[];
}

/** Points of a mark: yes is the best there is, no the worst. */
export function pointsOf(value: MarkValue): number {
  if (value === 'yes') return 5;
  return value === 'no' ? 1 : Number(value);
}

function together<M extends Mark>(marks: readonly M[], item: string | null): ChainMark<M> | null {
  if (marks.length === 0) return null;
  const points = marks.map(({ value }) => pointsOf(value));
  const [least, most] = [Math.min(...points), Math.max(...points)];
  return {
    points: points.reduce((sum, one) => sum + one, 0) / points.length,
    spread: least === most ? null : [least, most],
    item,
    marks: [...marks],
  };
}

/**
 * A chain's mark on one criterion: its own where somebody marked the chain, else that of the item that has least, as
 * a chain is no better than its weakest part.
 */
export function chainMark<M extends Mark>(
  own: readonly M[],
  items: readonly { name: string; marks: readonly M[] }[],
): ChainMark<M> | null {
  const marked = items.flatMap(({ name, marks }) => together(marks, name) ?? []);
  const least = marked.reduce<ChainMark<M> | null>(
    (low, one) => (low === null || one.points < low.points ? one : low),
    null,
  );
  return together(own, null) ?? least;
}
