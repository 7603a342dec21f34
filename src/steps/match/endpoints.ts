import { z } from 'zod';
import { done, endpoint, made } from '@/platform/endpoint';
import { compared } from '@/steps/takes/schema';
import {
  alignmentChange,
  matchAllOrder,
  matchedAll,
  matchOrder,
  newNote,
  onlyEqOrder,
  packOrder,
} from './schema';

const COMPARISON = '/api/comparisons/[id]';

/** What can be asked about clip sets and packs. */
export const MATCH = {
  setAlignment: endpoint('PUT', `${COMPARISON}/alignment`, done, alignmentChange),
  restorePassage: endpoint('POST', `${COMPARISON}/passages/[passageId]/restore`, done),
  match: endpoint(
    'POST',
    `${COMPARISON}/match`,
    z.object({ ids: z.array(z.string()) }),
    matchOrder,
  ),
  matchAll: endpoint('POST', `${COMPARISON}/match-all`, matchedAll, matchAllOrder),
  onlyEq: endpoint(
    'POST',
    `${COMPARISON}/only-eq`,
    z.object({ setId: z.string(), variantId: z.string() }),
    onlyEqOrder,
  ),
  removeFailed: endpoint('DELETE', `${COMPARISON}/clip-sets/[setId]`, done),
  addNote: endpoint('POST', `${COMPARISON}/clip-sets/[setId]/notes`, made, newNote),
  removeNote: endpoint('DELETE', `${COMPARISON}/clip-sets/[setId]/notes/[noteId]`, done),
  compare: endpoint(
    'GET',
    `${COMPARISON}/clip-sets/[setId]/clips/[chainId]/against/[otherId]`,
    compared,
  ),
  makePack: endpoint('POST', `${COMPARISON}/clip-sets/[setId]/packs`, made, packOrder),
  openPackKey: endpoint(
    'POST',
    `${COMPARISON}/packs/[packId]/key`,
    z.object({ document: z.string() }),
  ),
};
