import { listenerRoute } from '@/steps/listening/route';
import { viewFor } from '@/steps/listening/service';

export const GET = listenerRoute((token, seat) => viewFor(token, seat));
