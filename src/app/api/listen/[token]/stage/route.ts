import { readBody } from '@/platform/route';
import { listenerRoute } from '@/steps/listening/route';
import { stageDone } from '@/steps/listening/schema';
import { finishStage, viewFor } from '@/steps/listening/service';

export const POST = listenerRoute(async (token, seat, request) => {
  const { stage } = await readBody(request, stageDone);
  await finishStage(token, seat, stage);
  return viewFor(token, seat);
});
