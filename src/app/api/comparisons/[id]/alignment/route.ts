import { engineerRoute } from '@/platform/engineer-route';
import { MATCH } from '@/steps/match/endpoints';
import { setAlignment } from '@/steps/match/service';

export const PUT = engineerRoute(MATCH.setAlignment, (engineer, { id }, change) =>
  setAlignment(engineer, id, change),
);
