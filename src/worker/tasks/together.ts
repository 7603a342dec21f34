import type { Observation } from '@/core/statistics/observation';
import { readTogether, type Together } from '@/core/statistics/reading/together';

export interface TogetherTask {
  observations: readonly Observation[];
  reference: string;
}

/** Several sittings against a reference that all of them heard; null where nothing links them. */
export function readSittingsTogether({ observations, reference }: TogetherTask): Together | null {
  return readTogether(observations, reference);
}
