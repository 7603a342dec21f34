import { engineerRoute } from '@/platform/engineer-route';
import { CHAINS } from '@/steps/chains/endpoints';
import { addGrid } from '@/steps/chains/service';

export const POST = engineerRoute(CHAINS.addGrid, async (engineer, { id }, order) => ({
  made: await addGrid(engineer, id, order),
}));
