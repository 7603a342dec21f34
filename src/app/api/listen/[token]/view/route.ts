import { LISTENING } from '@/steps/listening/endpoints';
import { listenerRoute } from '@/steps/listening/route';
import { viewFor } from '@/steps/listening/service';

export const GET = listenerRoute(LISTENING.view, (token, seat) => viewFor(token, seat));
