import { engineerRoute } from '@/platform/engineer-route';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { restoreComparison } from '@/steps/comparisons/service';

export const POST = engineerRoute(COMPARISONS.restore, (engineer, { id }) =>
  restoreComparison(engineer, id),
);
