import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { changeLink } from '@/steps/sitting/service';

export const PUT = engineerRoute(SITTINGS.changeLink, (engineer, ids, { withdrawn }) =>
  changeLink(engineer, ids.id, ids.sittingId, ids.linkId, withdrawn, new Date()),
);
