import { engineerRoute } from '@/platform/engineer-route';
import { MATCH } from '@/steps/match/endpoints';
import { makePack } from '@/steps/match/pack';

export const POST = engineerRoute(MATCH.makePack, async (engineer, { id, setId }, order) => ({
  id: await makePack(engineer, id, setId, order, new Date()),
}));
