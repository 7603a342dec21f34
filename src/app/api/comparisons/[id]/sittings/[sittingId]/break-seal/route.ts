import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { breakSeal } from '@/steps/sitting/service';

export const POST = engineerRoute(SITTINGS.breakSeal, (engineer, { id, sittingId }, why) =>
  breakSeal(engineer, id, sittingId, why, new Date()),
);
