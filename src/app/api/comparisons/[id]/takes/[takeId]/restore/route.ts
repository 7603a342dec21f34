import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { restoreTake } from '@/steps/takes/service';

export const POST = engineerRoute(TAKES.restore, (engineer, { id, takeId }) =>
  restoreTake(engineer, id, takeId),
);
