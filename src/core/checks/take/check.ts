import type { Measurement } from '@/core/loudness/meter';
import type { TakeFeatures } from '../features';
import type { ReferenceAlignment } from '../set/set-check';

/** What a check may look at. */
export interface TakeFacts {
  sampleRateHz: number;
  channels: number;
  bitDepth: number;
  durationS: number;
  measurement: Measurement;
  /** Absent for takes that were inspected by earlier versions. */
  features?: TakeFeatures;
  referenceAlignment?: ReferenceAlignment | null;
}

export interface CheckRemark {
  check: string;
  severity: 'problem' | 'caution';
  /** A plain sentence, with what to do. */
  text: string;
}

/** One check: what it says about a take among its set; null when it has nothing to say. */
export type Check = (take: TakeFacts, set: readonly TakeFacts[]) => CheckRemark | null;

/** The most frequent value; the first of equals. */
export function usual<T>(values: readonly T[]): T {
  const counts = new Map<T, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  let best = values[0] as T;
  for (const [value, count] of counts) if (count > (counts.get(best) ?? 0)) best = value;
  return best;
}

/** A place in a take, as people say it. */
export function place(seconds: number): string {
  const whole = Math.floor(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}
