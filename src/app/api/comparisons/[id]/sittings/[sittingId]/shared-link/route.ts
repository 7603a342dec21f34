import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { changeSharedLink } from '@/steps/sitting/service';

export const PUT = engineerRoute(SITTINGS.shareLink, (engineer, { id, sittingId }, { open }) =>
  changeSharedLink(engineer, id, sittingId, open),
);
