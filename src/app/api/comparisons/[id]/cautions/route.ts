import { engineerRoute } from '@/platform/engineer-route';
import { CHAINS } from '@/steps/chains/endpoints';
import { acknowledgeCaution } from '@/steps/chains/service';

export const POST = engineerRoute(CHAINS.acknowledge, (engineer, { id }, { caution }) =>
  acknowledgeCaution(engineer, id, caution, new Date()),
);
