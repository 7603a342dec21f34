import { z } from 'zod';
import { done, endpoint } from '@/platform/endpoint';
import { decisionOrder, marksOrder, weighingChange } from './schema';

const COMPARISON = '/api/comparisons/[id]';

/** What can be asked about a decision. */
export const DECISIONS = {
  mark: endpoint('POST', `${COMPARISON}/marks`, done, marksOrder),
  weigh: endpoint('PUT', `${COMPARISON}/weighing`, done, weighingChange),
  lock: endpoint('POST', `${COMPARISON}/decision`, z.object({ version: z.int() }), decisionOrder),
  forecast: endpoint('POST', `${COMPARISON}/sittings/[sittingId]/forecast`, done),
};
