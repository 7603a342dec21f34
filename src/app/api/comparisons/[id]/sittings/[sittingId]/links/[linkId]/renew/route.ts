import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { renewLink } from '@/steps/sitting/service';

/** Another secret in place of the one that was lost; whoever has that one is out. */
export const POST = engineerRoute(SITTINGS.renewLink, (engineer, { id, sittingId, linkId }) =>
  renewLink(engineer, id, sittingId, linkId),
);
