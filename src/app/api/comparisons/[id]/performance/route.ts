import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { pickPerformance } from '@/steps/takes/service';

export const POST = engineerRoute(TAKES.pickPerformance, (engineer, { id }, choice) =>
  pickPerformance(engineer, id, choice),
);
