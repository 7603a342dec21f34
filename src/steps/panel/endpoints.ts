import { done, endpoint, made } from '@/platform/endpoint';
import { panelistDraft } from './schema';

const ONE = '/api/panel/[panelistId]';

/** What can be asked about the people of the panel. */
export const PANEL = {
  add: endpoint('POST', '/api/panel', made, panelistDraft),
  change: endpoint('PUT', ONE, done, panelistDraft),
  forget: endpoint('DELETE', ONE, done),
};
