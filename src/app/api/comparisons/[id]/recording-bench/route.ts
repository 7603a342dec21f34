import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { benchPlan, orderBench } from '@/steps/takes/recording-bench';

export const POST = engineerRoute(['id'], async (engineer, { id }, request) =>
  orderBench(engineer, id, await readBody(request, benchPlan), new Date()),
);
