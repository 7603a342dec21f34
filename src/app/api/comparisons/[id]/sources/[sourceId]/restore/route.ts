import { engineerRoute } from '@/platform/engineer-route';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { restoreSource } from '@/steps/comparisons/service';

export const POST = engineerRoute(COMPARISONS.restoreSource, (engineer, { id, sourceId }) =>
  restoreSource(engineer, id, sourceId),
);
