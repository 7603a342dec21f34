import { engineerRoute } from '@/platform/engineer-route';
import { discardDraft } from '@/steps/sitting/service';

export const DELETE = engineerRoute(['id', 'sittingId'], (engineer, { id, sittingId }) =>
  discardDraft(engineer, id, sittingId),
);
