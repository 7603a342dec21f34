import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { gearDraft } from '@/steps/gear/schema';
import { addGear } from '@/steps/gear/service';

export const POST = engineerRoute([], async (engineer, _, request) => ({
  id: await addGear(engineer, await readBody(request, gearDraft), new Date()),
}));
