import { engineerRoute } from '@/platform/engineer-route';
import { openPackKey } from '@/steps/match/pack';

export const POST = engineerRoute(['id', 'packId'], async (engineer, { id, packId }) => ({
  document: await openPackKey(engineer, id, packId, new Date()),
}));
