import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { comparisonDraft } from '@/steps/comparisons/schema';
import { createComparison } from '@/steps/comparisons/service';

export const POST = engineerRoute([], async (engineer, _, request) => ({
  id: await createComparison(engineer, await readBody(request, comparisonDraft), new Date()),
}));
