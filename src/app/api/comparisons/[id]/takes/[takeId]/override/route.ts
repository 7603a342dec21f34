import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { overrideOrder } from '@/steps/takes/schema';
import { overrideCheck } from '@/steps/takes/service';

export const PUT = engineerRoute(['id', 'takeId'], async (engineer, { id, takeId }, request) =>
  overrideCheck(engineer, id, takeId, await readBody(request, overrideOrder), new Date()),
);
