import { SAME_PERFORMANCE_COHERENCE } from '@/core/alignment/delay';

export const CAPTURE_METHODS = ['at once', 'one after another', 'replayed'] as const;
export type CaptureMethod = (typeof CAPTURE_METHODS)[number];

/** A take against another recording. */
export interface ReferenceAlignment {
  /** The one it was set against. */
  referenceTakeId: string;
  delaySamples: number;
  polarityInverted: boolean;
  coherence: number;
  driftPpm: number | null;
  /** Of another performance: where its onsets lie, s; null when the waveform tells. */
  onsetDelayS: number | null;
  /** Against the first take of the same chain; null for that one. */
  own: { coherence: number; levelDb: number } | null;
}

/** What a check of a whole set may look at: the takes of one source, in the order of recording. */
export interface SetTake {
  id: string;
  chain: string;
  sampleRateHz: number;
  loudnessLufs: number | null;
  referenceAlignment: ReferenceAlignment | null;
}

export interface SetFacts {
  takes: readonly SetTake[];
  chains: readonly string[];
  temperatureC: number;
}

/** Whether a relation speaks of one performance through two chains. */
export function samePerformance(
  referenceAlignment: ReferenceAlignment | null | undefined,
): boolean {
  return (referenceAlignment?.coherence ?? 0) >= SAME_PERFORMANCE_COHERENCE;
}

/** Of each chain the one take of which most is to be said; a chain is told once, however often it was recorded. */
export function mostOfEach<T extends { chain: string }>(
  known: readonly T[],
  much: (one: T) => number,
): T[] {
  const of = new Map<string, T>();
  for (const one of known) {
    const before = of.get(one.chain);
    if (!before || much(one) > much(before)) of.set(one.chain, one);
  }
  return [...of.values()];
}

export type SetCheck = (set: SetFacts) => string | null;

export function listed(names: readonly string[]): string {
  return names.length < 2
    ? (names[0] ?? '')
    : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;
}
