import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { closeSitting } from '@/steps/sitting/service';

export const POST = engineerRoute(SITTINGS.close, (engineer, { id, sittingId }) =>
  closeSitting(engineer, id, sittingId, new Date()),
);
