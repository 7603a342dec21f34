import { z } from 'zod';
import { done, endpoint, made } from '@/platform/endpoint';
import { logEntries, logReply } from './log-entry';
import { benchPlan, runSheetPlan } from './plans';
import { channelMap, compared, overrideOrder, performanceChoice, takesChange } from './schema';

const COMPARISON = '/api/comparisons/[id]';
const ONE = `${COMPARISON}/takes/[takeId]` as const;
const RUN_SHEET = `${COMPARISON}/run-sheet` as const;
const MOST_LOG_BYTES = 2 * 1024 * 1024;

/** What can be asked about takes, and at the stand. */
export const TAKES = {
  copyWhole: endpoint('POST', `${COMPARISON}/copy-with-takes`, made),
  change: endpoint('PUT', `${COMPARISON}/takes`, z.object({ gone: z.int() }), takesChange),
  makeChains: endpoint(
    'POST',
    `${COMPARISON}/takes/chains`,
    z.object({ chains: z.int(), takes: z.int() }),
  ),
  remove: endpoint('DELETE', ONE, done),
  restore: endpoint('POST', `${ONE}/restore`, done),
  pick: endpoint('POST', `${ONE}/pick`, done),
  pickPerformance: endpoint(
    'POST',
    `${COMPARISON}/performance`,
    z.object({ picked: z.int() }),
    performanceChoice,
  ),
  override: endpoint('PUT', `${ONE}/override`, done, overrideOrder),
  split: endpoint('POST', `${ONE}/split`, done, channelMap),
  peaks: endpoint('GET', `${ONE}/peaks`, z.object({ peaks: z.array(z.number()) })),
  compare: endpoint('GET', `${ONE}/against/[otherId]`, compared),
  removeArchive: endpoint('DELETE', `${COMPARISON}/archives/[archiveId]`, done),
  record: endpoint('POST', `${COMPARISON}/recording-bench`, done, benchPlan),
  writeRunSheet: endpoint('POST', RUN_SHEET, done, runSheetPlan),
  keepLog: endpoint('PUT', RUN_SHEET, logReply, logEntries, MOST_LOG_BYTES),
  clearRunSheet: endpoint('DELETE', RUN_SHEET, done),
};
