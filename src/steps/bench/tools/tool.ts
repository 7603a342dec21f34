/** One thing that a tool asks for. */
export interface Field {
  name: string;
  label: string;
  /** As it is first shown, and where the address says nothing. */
  usual: string;
  /** Numbers have a range; choices have words; text has neither. */
  range?: readonly [number, number];
  choices?: readonly string[];
  lines?: boolean;
}

export interface Curve {
  name: string;
  points: readonly (readonly [number, number])[];
}

export interface Figure {
  x: string;
  y: string;
  logX?: boolean;
  curves: readonly Curve[];
  /** A stroke at a value of x, such as what was asked for. */
  markX?: number;
  /** Categories instead of numbers along x. */
  categories?: readonly string[];
}

export interface Answer {
  /** In one sentence. */
  finding: string;
  lines: readonly (readonly [label: string, value: string])[];
  figure: Figure;
}

export type Values = (name: string) => number;
export type Words = (name: string) => string;

/** A calculator on the core: what it asks, what it says, and by which formula. */
export interface Tool {
  id: string;
  title: string;
  about: string;
  fields: readonly Field[];
  formulas: readonly string[];
  answer(value: Values, word: Words): Answer;
}

export const db = (value: number, digits = 1) =>
  `${value < 0 ? '−' : ''}${Math.abs(value).toFixed(digits)} dB`;

/** Evenly spaced values, the ends included. */
export function range(from: number, to: number, count: number): number[] {
  return Array.from({ length: count }, (_, i) => from + ((to - from) * i) / (count - 1));
}

/** Values with even steps in log scale. */
export function logRange(from: number, to: number, count: number): number[] {
  return range(Math.log(from), Math.log(to), count).map(Math.exp);
}
