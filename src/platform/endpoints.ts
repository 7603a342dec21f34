import { z } from 'zod';
import { keptDraft } from './copies/keeping';
import { done, endpoint, found, secret } from './endpoint';
import {
  accepting,
  access,
  inviting,
  passwordChange,
  shownDraft,
  signingIn,
  withPassword,
} from './sign-in/schema';

export const FOUND_KINDS = [
  'comparison',
  'chain',
  'take',
  'gear',
  'person',
  'remark',
  'decision',
] as const;
/** What a search over the whole bank finds: what it is, its text, where it stands and how to get there. */
export const foundAnywhere = z.object({
  found: z.array(
    z.object({
      kind: z.enum(FOUND_KINDS),
      text: z.string(),
      where: z.string(),
      address: z.string(),
    }),
  ),
});
export type FoundAnywhere = z.infer<typeof foundAnywhere>['found'][number];

/** Which comparisons somebody sees. */
const shownView = z.object({ limited: z.boolean(), comparisons: found.shape.found });

/** What can be asked about people and the house itself. */
export const HOUSE = {
  well: endpoint('GET', '/api/health', z.object({ well: z.literal(true), run: z.uuid() })),
  signIn: endpoint('POST', '/api/sign-in', done, signingIn),
  signOut: endpoint('DELETE', '/api/sign-in', done),
  changePassword: endpoint('PUT', '/api/account', done, passwordChange),
  invite: endpoint('POST', '/api/people', secret, inviting),
  comparisonsFound: endpoint('GET', '/api/people', found),
  shownTo: endpoint('GET', '/api/people/[accountId]/comparisons', shownView),
  changeShown: endpoint('PUT', '/api/people/[accountId]/comparisons', done, shownDraft),
  setAccess: endpoint('PUT', '/api/people/[accountId]', done, access),
  accept: endpoint('POST', '/api/invitations', done, accepting),
  search: endpoint('GET', '/api/search', foundAnywhere),
  askForCopy: endpoint('POST', '/api/copies', done),
  restoreCopy: endpoint('POST', '/api/copies/[copyId]', done, withPassword),
  keepCopies: endpoint('PUT', '/api/copies', done, keptDraft),
  withdraw: endpoint('DELETE', '/api/invitations/[invitationId]', done),
};
