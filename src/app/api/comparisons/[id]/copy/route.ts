import { engineerRoute } from '@/platform/engineer-route';
import { copyOf } from '@/steps/chains/service';
import { COMPARISONS } from '@/steps/comparisons/endpoints';

export const POST = engineerRoute(COMPARISONS.copy, async (engineer, { id }) => ({
  id: await copyOf(engineer, id, new Date()),
}));
