import { NOON, testDoor, testEngineer, withTestDatabase } from '../test/database';
import {
  acceptInvitation,
  invitationBehind,
  invite,
  peopleOf,
  setAccess,
  withdrawInvitation,
} from './people';
import { onlyWith } from './cookie';
import { INVITED, type InvitedRole, mayDo, ROLES } from './roles';
import { type SignedIn, signedIn, signIn } from './service';

withTestDatabase();

const PASSWORD = 'lantern under snow';
const later = (days: number) => new Date(NOON.getTime() + days * 24 * 3600 * 1000);
let owner: SignedIn;
beforeAll(async () => {
  owner = await testEngineer('Mirela Voss');
});

async function comeIn(name: string, role: InvitedRole): Promise<SignedIn> {
  const { token } = await invite(owner, { role, meantFor: name }, NOON);
  await acceptInvitation(token, { name, password: PASSWORD }, NOON);
  const { signInId } = await signIn({ name, password: PASSWORD }, testDoor(), NOON);
  const person = await signedIn(signInId, NOON);
  if (!person) throw new Error(`${name} is not in`);
  return person;
}

it('lets an invited engineer work in the owner’s studio', async () => {
  const engineer = await comeIn('Aino Kallas', 'engineer');
  expect(engineer).toMatchObject({ role: 'engineer', studioId: owner.accountId });
  expect(engineer.accountId).not.toBe(owner.accountId);
  expect(onlyWith('work', engineer)).toBe(engineer);
});

it('keeps a conductor away from everything that names chains', async () => {
  const conductor = await comeIn('Tomas Brandt', 'conductor');
  expect(() => onlyWith('work', conductor)).toThrow('stays blind');
  expect(() => onlyWith('read', conductor)).toThrow('stays blind');
  expect(() => onlyWith('work', null)).toThrow('not signed in');
});

it('lets a reader read, and nothing else', async () => {
  const reader = await comeIn('Uma Lind', 'reader');
  expect(onlyWith('read', reader)).toBe(reader);
  expect(() => onlyWith('work', reader)).toThrow('results and reports');
  expect(() => onlyWith('conduct', reader)).toThrow('results and reports');
});

it('says of every role what it may do and where it is at home', () => {
  const rights = (role: keyof typeof ROLES) =>
    (['work', 'read', 'conduct'] as const).filter((right) => mayDo(role, right));
  expect(rights('owner')).toEqual(['work', 'read', 'conduct']);
  expect(rights('engineer')).toEqual(['work', 'read', 'conduct']);
  expect(rights('conductor')).toEqual(['conduct']);
  expect(rights('reader')).toEqual(['read']);
  // Whoever is refused something is told why, and is led somewhere else.
  for (const role of INVITED) {
    if (mayDo(role, 'work')) continue;
    expect(ROLES[role].refusal).toMatch(/\.$/);
    expect(ROLES[role].home).not.toBe('/');
  }
});

it('takes an invitation once, not withdrawn, and not after a week', async () => {
  const { token } = await invite(owner, { role: 'engineer', meantFor: 'one of two' }, NOON);
  const both = await Promise.allSettled(
    ['First Comer', 'Second Comer'].map((name) =>
      acceptInvitation(token, { name, password: PASSWORD }, NOON),
    ),
  );
  expect(both.filter(({ status }) => status === 'fulfilled').length).toBe(1);
  expect(await invitationBehind(token, NOON)).toBeNull();

  const old = await invite(owner, { role: 'conductor', meantFor: 'a slow one' }, NOON);
  expect(await invitationBehind(old.token, later(6))).toMatchObject({ role: 'conductor' });
  await expect(
    acceptInvitation(old.token, { name: 'Slow', password: PASSWORD }, later(8)),
  ).rejects.toThrow('older than a week');

  const { invitations } = await peopleOf(owner, NOON);
  const listed = invitations.find(({ meantFor }) => meantFor === 'a slow one');
  await withdrawInvitation(owner, listed?.id ?? '', NOON);
  expect(await invitationBehind(old.token, NOON)).toBeNull();
});

it('refuses a name that is taken, and leaves the invitation to be used', async () => {
  const { token } = await invite(owner, { role: 'engineer', meantFor: 'a namesake' }, NOON);
  await expect(
    acceptInvitation(token, { name: 'mirela voss', password: PASSWORD }, NOON),
  ).rejects.toThrow('has an account here already');
  expect(await invitationBehind(token, NOON)).not.toBeNull();
});

it('ends access at once and gives it back; only the owner may, and never their own', async () => {
  const engineer = await comeIn('Lene Ruud', 'engineer');
  const lene = { name: 'Lene Ruud', password: PASSWORD };
  const { signInId: session } = await signIn(lene, testDoor(), NOON);
  await expect(setAccess(engineer, owner.accountId, false, NOON)).rejects.toMatchObject({
    status: 403,
  });
  await expect(invite(engineer, { role: 'engineer', meantFor: 'x' }, NOON)).rejects.toMatchObject({
    status: 403,
  });
  await expect(setAccess(owner, owner.accountId, false, NOON)).rejects.toMatchObject({
    status: 404,
  });
  await setAccess(owner, engineer.accountId, false, NOON);
  expect(await signedIn(session, NOON)).toBeNull();
  await expect(signIn(lene, testDoor(), NOON)).rejects.toMatchObject({ status: 401 });
  await setAccess(owner, engineer.accountId, true, NOON);
  // An old cookie stays dead; whoever is let in again signs in again.
  expect(await signedIn(session, NOON)).toBeNull();
  const { signInId } = await signIn(lene, testDoor(), NOON);
  expect(await signedIn(signInId, NOON)).toMatchObject({ name: 'Lene Ruud' });
});
