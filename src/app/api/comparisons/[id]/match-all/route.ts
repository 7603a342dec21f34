import { engineerRoute } from '@/platform/engineer-route';
import { MATCH } from '@/steps/match/endpoints';
import { startAllMatches } from '@/steps/match/service';

export const POST = engineerRoute(MATCH.matchAll, (engineer, { id }, order) =>
  startAllMatches(engineer, id, order, new Date()),
);
