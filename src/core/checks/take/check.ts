import type { Measurement } from '@/core/loudness/meter';
import type { TakeFeatures } from '../features';
import type { TakeRelation } from '../set/set-check';

/** What a check may look at. */
export interface TakeFacts {
  sampleRateHz: number;
  channels: number;
  bitDepth: number;
  durationS: number;
  measurement: Measurement;
  /** Absent for takes that were inspected by earlier versions. */
  features?: TakeFeatures;
  relation?: TakeRelation | null;
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
  const count = (value: T) => values.filter((other) => other === value).length;
  return values.reduce((best, value) => (count(value) > count(best) ? value : best), values[0]);
}

/** A place in a take, as people say it. */
export function place(seconds: number): string {
  const whole = Math.floor(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}
