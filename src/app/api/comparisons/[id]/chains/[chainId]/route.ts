import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { chainChange } from '@/steps/chains/schema';
import { changeChain } from '@/steps/chains/service';
import { removeChain } from '@/steps/takes/service';

export const PUT = engineerRoute(['id', 'chainId'], async (engineer, { id, chainId }, request) =>
  changeChain(engineer, id, chainId, await readBody(request, chainChange)),
);

export const DELETE = engineerRoute(['id', 'chainId'], (engineer, { id, chainId }) =>
  removeChain(engineer, id, chainId, new Date()),
);
