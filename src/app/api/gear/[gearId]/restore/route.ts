import { engineerRoute } from '@/platform/engineer-route';
import { restoreGear } from '@/steps/gear/service';

export const POST = engineerRoute(['gearId'], (engineer, { gearId }) =>
  restoreGear(engineer, gearId),
);
