import { engineerRoute } from '@/platform/engineer-route';
import { DECISIONS } from '@/steps/decision/endpoints';
import { lockDecision } from '@/steps/decision/service';

export const POST = engineerRoute(DECISIONS.lock, (engineer, { id }, order) =>
  lockDecision(engineer, id, order, new Date()),
);
