import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { orderBench } from '@/steps/takes/recording-bench';

export const POST = engineerRoute(TAKES.record, (engineer, { id }, plan) =>
  orderBench(engineer, id, plan, new Date()),
);
