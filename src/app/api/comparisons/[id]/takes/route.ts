import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { changeTakes } from '@/steps/takes/service';

export const PUT = engineerRoute(TAKES.change, (engineer, { id }, change) =>
  changeTakes(engineer, id, change, new Date()),
);
