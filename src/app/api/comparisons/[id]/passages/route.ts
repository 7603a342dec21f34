import { engineerRoute } from '@/platform/engineer-route';
import { addPassage } from '@/steps/comparisons/service';
import { COMPARISONS } from '@/steps/comparisons/endpoints';

export const POST = engineerRoute(COMPARISONS.addPassage, async (engineer, { id }, passage) => ({
  id: await addPassage(engineer, id, passage),
}));
