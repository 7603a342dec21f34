import { engineerRoute } from '@/platform/engineer-route';
import { CHAINS } from '@/steps/chains/endpoints';
import { changeChain } from '@/steps/chains/service';
import { removeChain } from '@/steps/takes/service';

export const PUT = engineerRoute(CHAINS.change, (engineer, { id, chainId }, change) =>
  changeChain(engineer, id, chainId, change),
);

export const DELETE = engineerRoute(CHAINS.remove, (engineer, { id, chainId }) =>
  removeChain(engineer, id, chainId, new Date()),
);
