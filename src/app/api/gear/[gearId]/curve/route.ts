import { engineerRoute } from '@/platform/engineer-route';
import { GEAR } from '@/steps/gear/endpoints';
import { setCurve } from '@/steps/gear/service';

export const PUT = engineerRoute(GEAR.setCurve, async (engineer, { gearId }, order) => ({
  points: await setCurve(engineer, gearId, order.which, order.text, order.version),
}));
