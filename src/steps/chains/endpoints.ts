import { z } from 'zod';
import { done, endpoint, made } from '@/platform/endpoint';
import { cautionOrder, chainChange, chainDraft, gridOrder, referenceOrder } from './schema';

const COMPARISON = '/api/comparisons/[id]';
const ONE = `${COMPARISON}/chains/[chainId]` as const;

/** What can be asked about chains. */
export const CHAINS = {
  add: endpoint('POST', `${COMPARISON}/chains`, made, chainDraft),
  change: endpoint('PUT', ONE, done, chainChange),
  remove: endpoint('DELETE', ONE, done),
  restore: endpoint('POST', `${ONE}/restore`, done),
  addGrid: endpoint('POST', `${COMPARISON}/grid`, z.object({ made: z.int() }), gridOrder),
  chooseReference: endpoint('PUT', `${COMPARISON}/reference`, done, referenceOrder),
  acknowledge: endpoint('POST', `${COMPARISON}/cautions`, done, cautionOrder),
};
