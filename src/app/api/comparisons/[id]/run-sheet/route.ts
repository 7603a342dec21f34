import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { clearRunSheet, keepLog, makeRunSheet } from '@/steps/takes/run-sheet';

export const POST = engineerRoute(TAKES.writeRunSheet, (engineer, { id }, plan) =>
  makeRunSheet(engineer, id, plan),
);

export const PUT = engineerRoute(TAKES.keepLog, (engineer, { id }, entries) =>
  keepLog(engineer, id, entries, new Date()),
);

export const DELETE = engineerRoute(TAKES.clearRunSheet, (engineer, { id }) =>
  clearRunSheet(engineer, id),
);
