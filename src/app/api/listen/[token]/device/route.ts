import { placeOfRequest } from '@/platform/client-address';
import { LISTENING } from '@/steps/listening/endpoints';
import { listenerRoute } from '@/steps/listening/route';
import { readSeats, writeSeat } from '@/steps/listening/seat-cookie';
import { addDevice, viewFor } from '@/steps/listening/service';

/** Goes on with a seat on one more device. */
export const POST = listenerRoute(LISTENING.addDevice, async (token, _, __, request) => {
  const arrival = { place: placeOfRequest(request), seats: await readSeats() };
  const listenerToken = await addDevice(token, arrival, new Date());
  await writeSeat(token, listenerToken);
  return viewFor(token, listenerToken);
});
