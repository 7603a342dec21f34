import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { channelMap } from '@/steps/takes/schema';
import { splitTake } from '@/steps/takes/service';

export const POST = engineerRoute(['id', 'takeId'], async (engineer, { id, takeId }, request) =>
  splitTake(engineer, id, takeId, await readBody(request, channelMap), new Date()),
);
