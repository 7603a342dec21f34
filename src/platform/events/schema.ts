import { z } from 'zod';
import { listQueryOf } from '../list-query';
import { ACTION_IDS } from './actions';

export const eventQuery = listQueryOf(['newest', 'oldest']).extend({
  /** '' for all. */
  action: z
    .enum(['', ...ACTION_IDS])
    .catch('')
    .default(''),
});
export type EventQuery = z.infer<typeof eventQuery>;
