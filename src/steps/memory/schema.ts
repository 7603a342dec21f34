import { z } from 'zod';
import { listQueryOf } from '@/platform/list-query';
import { uuid } from '@/steps/comparisons/schema';

export const heardQuery = listQueryOf(['newest', 'oldest']);
export type HeardQuery = z.infer<typeof heardQuery>;

/** Through which chain comparisons are set against each other. */
export const bridgeQuery = z.object({ through: uuid.nullable().catch(null).default(null) });

/** Which voice or instrument somebody wants to record. */
export const benchQuery = heardQuery.pick({ q: true });
