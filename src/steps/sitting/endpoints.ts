import { z } from 'zod';
import { done, endpoint, found, made, secret } from '@/platform/endpoint';
import {
  freshLink,
  linkChange,
  linkPage,
  listenerPage,
  linkOrder,
  packPreview,
  packSheets,
  resultsFileOrder,
  resultsFilePreview,
  sealBreaking,
  seated,
  sharedLinkChange,
  sittingDraft,
} from './schema';

const ALL = '/api/comparisons/[id]/sittings';
const ONE = `${ALL}/[sittingId]` as const;
const LINK = `${ONE}/links/[linkId]` as const;

const MOST_SHEET_BYTES = 4 << 20;
const MOST_FILE_BYTES = 16 << 20;

/** What can be asked about sittings. */
export const SITTINGS = {
  plan: endpoint('PUT', ALL, made, sittingDraft),
  rehearse: endpoint('POST', `${ALL}/rehearsal`, secret, sittingDraft),
  discard: endpoint('DELETE', ONE, done),
  /** Seals the plan that is sent: what is sealed is what whoever seals it sees. */
  open: endpoint('POST', `${ONE}/open`, z.object({ seal: z.string() }), sittingDraft),
  breakSeal: endpoint('POST', `${ONE}/break-seal`, done, sealBreaking),
  close: endpoint('POST', `${ONE}/close`, done),
  shareLink: endpoint('PUT', `${ONE}/shared-link`, done, sharedLinkChange),
  listeners: endpoint('GET', `${ONE}/listeners`, listenerPage),
  links: endpoint('GET', `${ONE}/links`, linkPage),
  askable: endpoint('GET', `${ONE}/askable`, found),
  addLinks: endpoint('POST', `${ONE}/links`, z.object({ links: z.array(freshLink) }), linkOrder),
  changeLink: endpoint('PUT', LINK, done, linkChange),
  renewLink: endpoint('POST', `${LINK}/renew`, secret),
  roomLink: endpoint('POST', '/api/rooms/[sittingId]', secret),
  release: endpoint('POST', `${ONE}/release`, done, seated),
  forget: endpoint('POST', `${ONE}/forget`, done, seated),
  importResults: endpoint(
    'POST',
    '/api/comparisons/[id]/results-files',
    z.object({ preview: resultsFilePreview, sittingId: z.string().nullable() }),
    resultsFileOrder,
    MOST_FILE_BYTES,
  ),
  importPack: endpoint(
    'POST',
    '/api/comparisons/[id]/packs/[packId]/answers',
    z.object({ preview: packPreview, sittingId: z.string().nullable() }),
    packSheets,
    MOST_SHEET_BYTES,
  ),
};
