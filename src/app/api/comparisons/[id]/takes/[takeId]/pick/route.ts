import { engineerRoute } from '@/platform/engineer-route';
import { pickOne } from '@/steps/takes/service';

export const POST = engineerRoute(['id', 'takeId'], (engineer, { id, takeId }) =>
  pickOne(engineer, id, takeId),
);
