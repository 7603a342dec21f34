import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { comparisonChange } from '@/steps/comparisons/schema';
import { changeComparison, removeComparison } from '@/steps/comparisons/service';

export const PUT = engineerRoute(['id'], async (engineer, { id }, request) =>
  changeComparison(engineer, id, await readBody(request, comparisonChange), new Date()),
);

export const DELETE = engineerRoute(['id'], (engineer, { id }) =>
  removeComparison(engineer, id, new Date()),
);
