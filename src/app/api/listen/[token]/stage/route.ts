import { readBody } from '@/platform/route';
import { listenerRoute } from '@/steps/listening/route';
import { stageDone } from '@/steps/listening/schema';
import { finishStage, viewFor } from '@/steps/listening/service';

export const POST = listenerRoute(async (token, seat, request) => {
  await finishStage(token, seat, await readBody(request, stageDone));
  return viewFor(token, seat);
});
