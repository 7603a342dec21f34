import { linkRoute } from '@/steps/listening/route';
import { viewForConductor } from '@/steps/listening/conductor';
import { readRoomDevice } from '@/steps/listening/seat-cookie';

export const GET = linkRoute(async (token) => viewForConductor(token, await readRoomDevice()));
