import { engineerRoute } from '@/platform/engineer-route';
import { DECISIONS } from '@/steps/decision/endpoints';
import { askForecast } from '@/steps/decision/service';

export const POST = engineerRoute(DECISIONS.forecast, (engineer, { id, sittingId }) =>
  askForecast(engineer, id, sittingId, new Date()),
);
