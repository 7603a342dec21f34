import { engineerRoute } from '@/platform/engineer-route';
import { CHAINS } from '@/steps/chains/endpoints';
import { bringChainBack } from '@/steps/takes/service';

export const POST = engineerRoute(CHAINS.restore, (engineer, { id, chainId }) =>
  bringChainBack(engineer, id, chainId),
);
