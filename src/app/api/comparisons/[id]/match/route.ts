import { engineerRoute } from '@/platform/engineer-route';
import { MATCH } from '@/steps/match/endpoints';
import { startMatch } from '@/steps/match/service';

export const POST = engineerRoute(MATCH.match, async (engineer, { id }, order) => ({
  ids: await startMatch(engineer, id, order, new Date()),
}));
