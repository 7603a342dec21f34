import { LISTENING } from '@/steps/listening/endpoints';
import { listenerRoute } from '@/steps/listening/route';
import { answer, viewFor } from '@/steps/listening/service';

export const POST = listenerRoute(LISTENING.answer, async (token, seat, given) => {
  await answer(token, seat, given, new Date());
  return viewFor(token, seat);
});
