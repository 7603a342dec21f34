import { viewForConductor } from '@/steps/listening/conductor';
import { LISTENING } from '@/steps/listening/endpoints';
import { linkRoute } from '@/steps/listening/route';
import { readRoomDevice } from '@/steps/listening/seat-cookie';

export const GET = linkRoute(LISTENING.conductorView, async (token) =>
  viewForConductor(token, await readRoomDevice()),
);
