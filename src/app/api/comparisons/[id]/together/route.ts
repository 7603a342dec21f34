import { engineerRoute } from '@/platform/engineer-route';
import { RESULTS } from '@/steps/results/endpoints';
import { chooseTogether } from '@/steps/results/together';

export const POST = engineerRoute(RESULTS.readTogether, async (engineer, { id }, order) => ({
  id: await chooseTogether(engineer, id, order, new Date()),
}));
