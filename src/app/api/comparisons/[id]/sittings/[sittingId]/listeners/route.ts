import { engineerRoute } from '@/platform/engineer-route';
import { queryOf } from '@/platform/list-query';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { listenerQuery } from '@/steps/sitting/schema';
import { listenersOf } from '@/steps/sitting/service';

export const GET = engineerRoute(SITTINGS.listeners, (engineer, ids, _, request) =>
  listenersOf(engineer, ids.id, ids.sittingId, listenerQuery.parse(queryOf(request))),
);
