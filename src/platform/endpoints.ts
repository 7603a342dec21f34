import { z } from 'zod';
import { done, endpoint, secret } from './endpoint';
import { accepting, access, inviting, passwordChange, signingIn } from './sign-in/schema';

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

/** What can be asked about people and the house itself. */
export const HOUSE = {
  well: endpoint('GET', '/api/health', z.object({ well: z.literal(true) })),
  signIn: endpoint('POST', '/api/sign-in', done, signingIn),
  signOut: endpoint('DELETE', '/api/sign-in', done),
  changePassword: endpoint('PUT', '/api/account', done, passwordChange),
  invite: endpoint('POST', '/api/people', secret, inviting),
  setAccess: endpoint('PUT', '/api/people/[accountId]', done, access),
  accept: endpoint('POST', '/api/invitations', done, accepting),
  search: endpoint('GET', '/api/search', foundAnywhere),
  askForCopy: endpoint('POST', '/api/copies', done),
  withdraw: endpoint('DELETE', '/api/invitations/[invitationId]', done),
};
