import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { discardDraft } from '@/steps/sitting/service';

export const DELETE = engineerRoute(SITTINGS.discard, (engineer, { id, sittingId }) =>
  discardDraft(engineer, id, sittingId),
);
