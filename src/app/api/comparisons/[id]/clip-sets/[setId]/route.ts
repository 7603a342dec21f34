import { engineerRoute } from '@/platform/engineer-route';
import { MATCH } from '@/steps/match/endpoints';
import { removeFailed } from '@/steps/match/service';

export const DELETE = engineerRoute(MATCH.removeFailed, async (engineer, { id, setId }) => {
  await removeFailed(engineer, id, setId);
  return {};
});
