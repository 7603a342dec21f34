import { engineerRoute } from '@/platform/engineer-route';
import { restoreComparison } from '@/steps/comparisons/service';

export const POST = engineerRoute(['id'], (engineer, { id }) => restoreComparison(engineer, id));
