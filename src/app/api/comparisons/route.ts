import { engineerRoute } from '@/platform/engineer-route';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { createComparison } from '@/steps/comparisons/service';

export const POST = engineerRoute(COMPARISONS.start, async (engineer, _, draft) => ({
  id: await createComparison(engineer, draft, new Date()),
}));
