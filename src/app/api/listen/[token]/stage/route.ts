import { LISTENING } from '@/steps/listening/endpoints';
import { listenerRoute } from '@/steps/listening/route';
import { finishStage, viewFor } from '@/steps/listening/service';

export const POST = listenerRoute(LISTENING.stageDone, async (token, seat, stage) => {
  await finishStage(token, seat, stage);
  return viewFor(token, seat);
});
