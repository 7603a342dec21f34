import { readTogether } from '@/core/statistics/reading/together';
import type { Reads } from '@/steps/results/together';

/** Several sittings against a reference that all of them heard; null where nothing links them. */
export const readSittingsTogether = (({ observations, reference }) =>
  readTogether(observations, reference)) satisfies Reads;
