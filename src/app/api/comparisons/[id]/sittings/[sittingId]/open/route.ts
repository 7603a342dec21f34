import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { openSitting } from '@/steps/sitting/service';

export const POST = engineerRoute(SITTINGS.open, (engineer, { id, sittingId }, draft) =>
  openSitting(engineer, id, sittingId, draft, new Date()),
);
