import { engineerRoute } from '@/platform/engineer-route';
import { EARS } from '@/steps/ears/endpoints';
import { removeTest } from '@/steps/ears/service';

export const DELETE = engineerRoute(EARS.removeTest, (engineer, { testId }) =>
  removeTest(engineer, testId, new Date()),
);
