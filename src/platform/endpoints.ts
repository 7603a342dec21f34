import { z } from 'zod';
import { done, endpoint, secret } from './endpoint';
import { accepting, access, inviting, passwordChange, signingIn } from './sign-in/schema';

/** What can be asked about people and the house itself. */
export const HOUSE = {
  well: endpoint('GET', '/api/health', z.object({ well: z.literal(true) })),
  signIn: endpoint('POST', '/api/sign-in', done, signingIn),
  signOut: endpoint('DELETE', '/api/sign-in', done),
  changePassword: endpoint('PUT', '/api/account', done, passwordChange),
  invite: endpoint('POST', '/api/people', secret, inviting),
  setAccess: endpoint('PUT', '/api/people/[accountId]', done, access),
  accept: endpoint('POST', '/api/invitations', done, accepting),
  askForCopy: endpoint('POST', '/api/copies', done),
  withdraw: endpoint('DELETE', '/api/invitations/[invitationId]', done),
};
