import { engineerRoute } from '@/platform/engineer-route';
import { closeSitting } from '@/steps/sitting/service';

export const POST = engineerRoute(['id', 'sittingId'], (engineer, { id, sittingId }) =>
  closeSitting(engineer, id, sittingId, new Date()),
);
