import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { removeTake } from '@/steps/takes/service';

export const DELETE = engineerRoute(TAKES.remove, (engineer, { id, takeId }) =>
  removeTake(engineer, id, takeId, new Date()),
);
