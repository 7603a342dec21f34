import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { release } from '@/steps/sitting/service';

export const POST = engineerRoute(SITTINGS.release, (engineer, { id, sittingId }, { seat }) =>
  release(engineer, id, sittingId, seat),
);
