import { engineerRoute } from '@/platform/engineer-route';
import { CHAINS } from '@/steps/chains/endpoints';
import { chooseReference } from '@/steps/chains/service';

export const PUT = engineerRoute(CHAINS.chooseReference, (engineer, { id }, order) =>
  chooseReference(engineer, id, order, new Date()),
);
