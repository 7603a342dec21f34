import { readBody } from '@/platform/route';
import { conduct, viewForConductor } from '@/steps/listening/conductor';
import { linkRoute } from '@/steps/listening/route';
import { conducting } from '@/steps/listening/schema';
import { readRoomDevice } from '@/steps/listening/seat-cookie';

export const POST = linkRoute(async (token, request) => {
  const device = await readRoomDevice();
  await conduct(token, device, await readBody(request, conducting), new Date());
  return viewForConductor(token, device);
});
