import { conduct, viewForConductor } from '@/steps/listening/conductor';
import { LISTENING } from '@/steps/listening/endpoints';
import { linkRoute } from '@/steps/listening/route';
import { readRoomDevice } from '@/steps/listening/seat-cookie';

export const POST = linkRoute(LISTENING.move, async (token, what) => {
  const device = await readRoomDevice();
  await conduct(token, device, what, new Date());
  return viewForConductor(token, device);
});
