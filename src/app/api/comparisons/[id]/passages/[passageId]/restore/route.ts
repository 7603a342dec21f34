import { engineerRoute } from '@/platform/engineer-route';
import { MATCH } from '@/steps/match/endpoints';
import { restorePassage } from '@/steps/match/service';

export const POST = engineerRoute(MATCH.restorePassage, (engineer, { id, passageId }) =>
  restorePassage(engineer, id, passageId),
);
