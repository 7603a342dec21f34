import type { Random } from '@/core/signal/random';
import { rounds } from './rounds';

/**
 * Williams design (1949): every condition comes equally often at every place, and follows every other
 * equally often. n rows for an even n, 2n for an odd one.
 * @param n number of conditions, at least 1
 * @returns rows of condition indices 0 … n-1
 */
export function williams(n: number): number[][] {
  const zigzag = Array.from({ length: n }, (_, i) => (i % 2 === 0 ? (n - i / 2) % n : (i + 1) / 2));
  const rows = zigzag.map((_, shift) => zigzag.map((condition) => (condition + shift) % n));
  return n % 2 === 0 ? rows : [...rows, ...rows.map((row) => [...row].reverse())];
}

/** Endless run of conditions for one seat, row after row of the design, none twice running. */
export function* williamsRun(n: number, rows: Iterator<number[], never>): Generator<number, never> {
  let last = -1;
  for (;;) {
    const row = rows.next().value;
    // A row read backwards keeps the balance of places over the seats.
    for (const condition of row[0] === last && n > 1 ? [...row].reverse() : row) {
      yield condition;
      last = condition;
    }
  }
}

/** Rows of the design in random order, all before any comes again. */
export function williamsRows(n: number, random: Random): Generator<number[], never> {
  return rounds(williams(n), random);
}
