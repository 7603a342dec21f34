import { engineerRoute } from '@/platform/engineer-route';
import { MATCH } from '@/steps/match/endpoints';
import { openPackKey } from '@/steps/match/pack';

export const POST = engineerRoute(MATCH.openPackKey, async (engineer, { id, packId }) => ({
  document: await openPackKey(engineer, id, packId, new Date()),
}));
