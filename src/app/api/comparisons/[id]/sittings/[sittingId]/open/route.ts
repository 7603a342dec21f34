import { engineerRoute } from '@/platform/engineer-route';
import { openSitting } from '@/steps/sitting/service';

export const POST = engineerRoute(['id', 'sittingId'], (engineer, { id, sittingId }) =>
  openSitting(engineer, id, sittingId, new Date()),
);
