import { engineerRoute } from '@/platform/engineer-route';
import { CHAINS } from '@/steps/chains/endpoints';
import { addChain } from '@/steps/chains/service';

export const POST = engineerRoute(CHAINS.add, async (engineer, { id }, draft) => ({
  id: await addChain(engineer, id, draft),
}));
