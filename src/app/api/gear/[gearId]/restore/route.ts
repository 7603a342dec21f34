import { engineerRoute } from '@/platform/engineer-route';
import { GEAR } from '@/steps/gear/endpoints';
import { restoreGear } from '@/steps/gear/service';

export const POST = engineerRoute(GEAR.restore, (engineer, { gearId }) =>
  restoreGear(engineer, gearId),
);
