import { placeOfRequest } from '@/platform/client-address';
import { LISTENING } from '@/steps/listening/endpoints';
import { listenerRoute } from '@/steps/listening/route';
import { readSeats, writeSeat } from '@/steps/listening/seat-cookie';
import { join, viewFor } from '@/steps/listening/service';

export const POST = listenerRoute(LISTENING.join, async (token, _, who, request) => {
  const arrival = { place: placeOfRequest(request), seats: await readSeats() };
  const listenerToken = await join(token, who, arrival, new Date());
  await writeSeat(token, listenerToken);
  return viewFor(token, listenerToken);
});
