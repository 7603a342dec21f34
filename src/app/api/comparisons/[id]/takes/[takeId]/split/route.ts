import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { splitTake } from '@/steps/takes/service';

export const POST = engineerRoute(TAKES.split, (engineer, { id, takeId }, map) =>
  splitTake(engineer, id, takeId, map, new Date()),
);
