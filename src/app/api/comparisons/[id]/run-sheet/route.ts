import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { logEntries } from '@/steps/takes/log-entry';
import { clearRunSheet, keepLog, makeRunSheet, runSheetPlan } from '@/steps/takes/run-sheet';

const MOST_LOG_BYTES = 2 * 1024 * 1024;

export const POST = engineerRoute(['id'], async (engineer, { id }, request) =>
  makeRunSheet(engineer, id, await readBody(request, runSheetPlan)),
);

export const PUT = engineerRoute(['id'], async (engineer, { id }, request) =>
  keepLog(engineer, id, await readBody(request, logEntries, MOST_LOG_BYTES), new Date()),
);

export const DELETE = engineerRoute(['id'], (engineer, { id }) => clearRunSheet(engineer, id));
