import { engineerRoute } from '@/platform/engineer-route';
import { DECISIONS } from '@/steps/decision/endpoints';
import { weigh } from '@/steps/decision/service';

export const PUT = engineerRoute(DECISIONS.weigh, (engineer, { id }, change) =>
  weigh(engineer, id, change, new Date()),
);
