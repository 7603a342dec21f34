import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { panelistDraft } from '@/steps/panel/schema';
import { addPanelist } from '@/steps/panel/service';

export const POST = engineerRoute([], async (engineer, _, request) => ({
  id: await addPanelist(engineer, await readBody(request, panelistDraft), new Date()),
}));
