import { endpoint, made } from '@/platform/endpoint';
import { togetherOrder } from './schema';

/** What can be asked about results. */
export const RESULTS = {
  readTogether: endpoint('POST', '/api/comparisons/[id]/together', made, togetherOrder),
};
