import { placeOfRequest } from '@/platform/client-address';
import { readBody } from '@/platform/route';
import { listenerRoute } from '@/steps/listening/route';
import { joining } from '@/steps/listening/schema';
import { readSeats, writeSeat } from '@/steps/listening/seat-cookie';
import { join, viewFor } from '@/steps/listening/service';

export const POST = listenerRoute(async (token, _, request) => {
  const arrival = { place: placeOfRequest(request), seats: await readSeats() };
  const listenerToken = await join(token, await readBody(request, joining), arrival, new Date());
  await writeSeat(token, listenerToken);
  return viewFor(token, listenerToken);
});
