import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { overrideCheck } from '@/steps/takes/service';

export const PUT = engineerRoute(TAKES.override, (engineer, { id, takeId }, order) =>
  overrideCheck(engineer, id, takeId, order, new Date()),
);
