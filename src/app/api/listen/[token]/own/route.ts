import { LISTENING } from '@/steps/listening/endpoints';
import { listenerRoute } from '@/steps/listening/route';
import { ownAnswersOf } from '@/steps/results/own';

/** What a listener answered, with the names, once the sitting is closed. */
export const GET = listenerRoute(LISTENING.own, (token, seat) => ownAnswersOf(token, seat));
