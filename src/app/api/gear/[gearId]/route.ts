import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { gearChange } from '@/steps/gear/schema';
import { changeGear, removeGear } from '@/steps/gear/service';

export const PUT = engineerRoute(['gearId'], async (engineer, { gearId }, request) => {
  const { draft, version } = await readBody(request, gearChange);
  await changeGear(engineer, gearId, draft, version);
});

export const DELETE = engineerRoute(['gearId'], (engineer, { gearId }) =>
  removeGear(engineer, gearId, new Date()),
);
