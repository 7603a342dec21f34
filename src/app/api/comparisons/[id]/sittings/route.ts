import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { planSitting } from '@/steps/sitting/service';

export const PUT = engineerRoute(SITTINGS.plan, async (engineer, { id }, draft) => ({
  id: await planSitting(engineer, id, draft, new Date()),
}));
