import { createHash, randomBytes } from 'node:crypto';
import { hash } from '@node-rs/argon2';
import { db, transaction, violatesUnique } from '../database';
import { notFound, UserError } from '../errors';
import { record } from '../events/service';
import { announce } from '../live';
import { requireOwner } from './owner';
import { canBeLimited } from './roles';
import type { Credentials, Inviting, ShownDraft } from './schema';
import {
  deleteInvitation,
  endSignInsOf,
  findShown,
  findInvitation,
  insertAccount,
  insertInvitation,
  type Invited,
  listInvitations,
  listPeople,
  markUsed,
  type Person,
  setEnded,
  setShown,
  type SignedIn,
} from './store';

const INVITATION_LASTS_MS = 7 * 24 * 3600 * 1000;

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

export interface PeopleView {
  people: Person[];
  invitations: Invited[];
}

const LETS_IN = 'lets people in or out';

export async function peopleOf(asking: SignedIn, at: Date): Promise<PeopleView> {
  requireOwner(asking, LETS_IN);
  return {
    people: await listPeople(db(), asking.studioId),
    invitations: await listInvitations(db(), asking.studioId, at),
  };
}

/** @returns the secret of a link that makes one account; it is shown once and not kept */
export async function invite(
  owner: SignedIn,
  { role, limited = false, meantFor }: Inviting,
  at: Date,
): Promise<{ token: string }> {
  requireOwner(owner, LETS_IN);
  const token = randomBytes(24).toString('base64url');
  const expiresAt = new Date(at.getTime() + INVITATION_LASTS_MS);
  const invitation = {
    studioId: owner.studioId,
    tokenHash: hashOf(token),
    role,
    limited: limited && canBeLimited(role),
    meantFor,
    expiresAt,
  };
  await transaction(async (tx) => {
    await insertInvitation(tx, invitation, at);
    await record(tx, owner, 'invitation', { about: `${role}, for ${meantFor || 'anybody'}` }, at);
  });
  return { token };
}

export async function withdrawInvitation(owner: SignedIn, id: string, at: Date): Promise<void> {
  requireOwner(owner, LETS_IN);
  await transaction(async (tx) => {
    if (!(await deleteInvitation(tx, owner.studioId, id))) throw notFound('invitation');
    await record(tx, owner, 'invitation withdrawn', {}, at);
  });
}

/** What an invitation offers, to whoever has its link; null when it was used, withdrawn or is too old. */
export async function invitationBehind(token: string, at: Date): Promise<Invited | null> {
  return findInvitation(db(), hashOf(token), at);
}

/** Makes the account that an invitation allows. Two who use one link at once: the first gets it. */
export async function acceptInvitation(
  token: string,
  { name, password }: Credentials,
  at: Date,
): Promise<void> {
  const gone = new UserError(
    409,
    'This invitation was used, withdrawn or is older than a week; ask for another.',
  );
  // Looked up first: hashing is costly, and strangers should not have it done for them.
  if (!(await invitationBehind(token, at))) throw gone;
  const passwordHash = await hash(password);
  await transaction(async (tx) => {
    const invitation = await findInvitation(tx, hashOf(token), at);
    if (!invitation) throw gone;
    const { role, studioId, limited } = invitation;
    const place = { role, studioId, limited };
    const made = await insertAccount(tx, name, passwordHash, at, place).catch((error: unknown) => {
      if (!violatesUnique(error, 'account_name')) throw error;
      throw new UserError(409, `“${name}” has an account here already; choose another name.`);
    });
    await markUsed(tx, invitation.id, at);
    await record(tx, { accountId: made, studioId, name }, 'joined', { about: role }, at);
  });
}

/**
 * Ends somebody's access at once, or gives it back; what they did stays. Ended sign-ins stay ended: whoever is
 * let in again signs in again.
 */
export async function setAccess(
  owner: SignedIn,
  accountId: string,
  allowed: boolean,
  at: Date,
): Promise<void> {
  requireOwner(owner, LETS_IN);
  await transaction(async (tx) => {
    if (!(await setEnded(tx, owner.studioId, accountId, allowed ? null : at))) {
      throw notFound('person');
    }
    await endSignInsOf(tx, accountId, at);
    await announce(tx, accountId);
    const action = allowed ? 'access given' : 'access ended';
    await record(tx, owner, action, { about: `account ${accountId}` }, at);
  });
}

/** Which comparisons somebody sees, for the owner. */
export async function shownTo(
  owner: SignedIn,
  accountId: string,
): Promise<{ limited: boolean; comparisonIds: string[] }> {
  requireOwner(owner, LETS_IN);
  const shown = await findShown(db(), owner.studioId, accountId);
  if (!shown) throw notFound('person');
  return { limited: shown.limited, comparisonIds: shown.comparisonIds };
}

/** Shows somebody all comparisons or some; what they did in others stays. */
export async function changeShown(
  owner: SignedIn,
  accountId: string,
  { limited, comparisonIds }: ShownDraft,
  at: Date,
): Promise<void> {
  requireOwner(owner, LETS_IN);
  await transaction(async (tx) => {
    const person = await findShown(tx, owner.studioId, accountId);
    if (!person) throw notFound('person');
    if (!canBeLimited(person.role)) {
      throw new UserError(
        422,
        'A conductor is shown rooms and no comparison; nothing was changed.',
      );
    }
    await setShown(tx, accountId, limited, comparisonIds);
    await announce(tx, accountId);
    const sees = limited ? `${comparisonIds.length} comparisons` : 'all comparisons';
    await record(tx, owner, 'comparisons shown', { about: `${sees}, account ${accountId}` }, at);
  });
}
