import { engineerRoute } from '@/platform/engineer-route';
import { GEAR } from '@/steps/gear/endpoints';
import { addGear } from '@/steps/gear/service';

export const POST = engineerRoute(GEAR.add, async (engineer, _, draft) => ({
  id: await addGear(engineer, draft, new Date()),
}));
