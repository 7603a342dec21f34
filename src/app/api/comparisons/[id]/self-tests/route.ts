import { engineerRoute } from '@/platform/engineer-route';
import { SELF_TESTS } from '@/steps/self-test/endpoints';
import { beginSelfTest } from '@/steps/self-test/service';

export const POST = engineerRoute(SELF_TESTS.begin, (engineer, { id }, order) =>
  beginSelfTest(engineer, id, order, new Date()),
);
