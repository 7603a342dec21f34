import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { pickOne } from '@/steps/takes/service';

export const POST = engineerRoute(TAKES.pick, (engineer, { id, takeId }) =>
  pickOne(engineer, id, takeId),
);
