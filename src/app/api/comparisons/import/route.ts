import { engineerRoute } from '@/platform/engineer-route';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { awaitArrival } from '@/steps/comparisons/service';

export const POST = engineerRoute(COMPARISONS.bringIn, async (engineer, _, file) => ({
  id: await awaitArrival(engineer, file, new Date()),
}));
