import type { Forecast } from '@/core/statistics/forecast';
import { percentile } from '@/core/statistics/percentile';

/** Strengths of a panel, and of panels drawn anew from it. */
export type Panels = Pick<Forecast, 'chains' | 'strengths' | 'redrawn'>;

/** A figure of a panel, with the middle 95 % of the same over panels drawn anew from it. */
export interface Redrawn {
  value: number;
  from: number;
  to: number;
}

/**
 * A figure made of chains' strengths, of the panel and of all drawn anew (percentile interval, Efron & Tibshirani 1993).
 * @param figure of the strengths of the chains asked for, in their order
 * @returns null where a chain was not heard there, or a figure is none
 */
export function overPanels(
  { chains, strengths, redrawn }: Panels,
  asked: readonly string[],
  figure: (strengths: readonly number[]) => number,
): Redrawn | null {
  const at = asked.map((chain) => chains.indexOf(chain));
  if (at.includes(-1)) return null;
  const value = figure(at.map((i) => strengths[i]!));
  const drawn = (redrawn[0] ?? [])
    .map((_, panel) => figure(at.map((i) => redrawn[i]![panel]!)))
    .sort((x, y) => x - y);
  if (drawn.length === 0 || ![value, ...drawn].every(Number.isFinite)) return null;
  return { value, from: percentile(drawn, 0.025), to: percentile(drawn, 0.975) };
}
