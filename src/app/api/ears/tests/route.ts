import { engineerRoute } from '@/platform/engineer-route';
import { EARS } from '@/steps/ears/endpoints';
import { addTest } from '@/steps/ears/service';

export const POST = engineerRoute(EARS.addTest, (engineer, _, draft) =>
  addTest(engineer, draft, new Date()),
);
