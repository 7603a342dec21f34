import { engineerRoute } from '@/platform/engineer-route';
import { PANEL } from '@/steps/panel/endpoints';
import { addPanelist } from '@/steps/panel/service';

export const POST = engineerRoute(PANEL.add, async (engineer, _, draft) => ({
  id: await addPanelist(engineer, draft, new Date()),
}));
