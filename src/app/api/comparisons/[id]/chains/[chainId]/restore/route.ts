import { engineerRoute } from '@/platform/engineer-route';
import { bringChainBack } from '@/steps/takes/service';

export const POST = engineerRoute(['id', 'chainId'], (engineer, { id, chainId }) =>
  bringChainBack(engineer, id, chainId),
);
