import { readBody } from '@/platform/route';
import { listenerRoute } from '@/steps/listening/route';
import { answering } from '@/steps/listening/schema';
import { answer, viewFor } from '@/steps/listening/service';

export const POST = listenerRoute(async (token, seat, request) => {
  await answer(token, seat, await readBody(request, answering), new Date());
  return viewFor(token, seat);
});
