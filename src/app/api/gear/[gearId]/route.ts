import { engineerRoute } from '@/platform/engineer-route';
import { GEAR } from '@/steps/gear/endpoints';
import { changeGear, removeGear } from '@/steps/gear/service';

export const PUT = engineerRoute(GEAR.change, (engineer, { gearId }, { draft, version }) =>
  changeGear(engineer, gearId, draft, version),
);

export const DELETE = engineerRoute(GEAR.remove, (engineer, { gearId }) =>
  removeGear(engineer, gearId, new Date()),
);
