import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { rehearse } from '@/steps/sitting/service';

export const POST = engineerRoute(SITTINGS.rehearse, (engineer, { id }, draft) =>
  rehearse(engineer, id, draft, new Date()),
);
