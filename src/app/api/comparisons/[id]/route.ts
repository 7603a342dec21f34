import { engineerRoute } from '@/platform/engineer-route';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { changeComparison, removeComparison } from '@/steps/comparisons/service';

export const PUT = engineerRoute(COMPARISONS.change, (engineer, { id }, change) =>
  changeComparison(engineer, id, change, new Date()),
);

export const DELETE = engineerRoute(COMPARISONS.remove, (engineer, { id }) =>
  removeComparison(engineer, id, new Date()),
);
