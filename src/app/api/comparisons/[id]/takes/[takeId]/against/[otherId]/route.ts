import { engineerRoute } from '@/platform/engineer-route';
import { comparedTakes } from '@/steps/takes/compare';
import { TAKES } from '@/steps/takes/endpoints';

export const GET = engineerRoute(TAKES.compare, (engineer, { id, takeId, otherId }) =>
  comparedTakes(engineer, id, takeId, otherId),
);
