import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { forget } from '@/steps/sitting/service';

export const POST = engineerRoute(SITTINGS.forget, (engineer, { id, sittingId }, { seat }) =>
  forget(engineer, id, sittingId, seat, new Date()),
);
