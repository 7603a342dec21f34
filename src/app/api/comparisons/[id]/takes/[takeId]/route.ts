import { engineerRoute } from '@/platform/engineer-route';
import { removeTake } from '@/steps/takes/service';

export const DELETE = engineerRoute(['id', 'takeId'], (engineer, { id, takeId }) =>
  removeTake(engineer, id, takeId),
);
