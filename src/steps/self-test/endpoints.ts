import { endpoint, secret } from '@/platform/endpoint';
import { selfTestOrder } from './schema';

export const SELF_TESTS = {
  begin: endpoint('POST', '/api/comparisons/[id]/self-tests', secret, selfTestOrder),
};
