import { db, transaction } from '../database';
import {
  acceptInvitation,
  invite,
  peopleOf,
  setAccess,
  withdrawInvitation,
} from '../sign-in/people';
import { changePassword, signIn } from '../sign-in/service';
import type { SignedIn } from '../sign-in/store';
import { NOON, testDoor, testEngineer, withTestDatabase } from '../test/database';
import { eventQuery } from './schema';
import { eventsFile, eventsOf, record, recordAlone } from './service';

withTestDatabase();

const ask = (owner: SignedIn, change: object = {}) => eventsOf(owner, eventQuery.parse(change));
const actions = async (owner: SignedIn) =>
  (await ask(owner, { sort: 'oldest' })).lines.map(({ action }) => action);

describe('the log', () => {
  it('holds who was let in and out, who came, and passwords that changed; nothing secret', async () => {
    const owner = await testEngineer('Olga Owner');
    const { token } = await invite(owner, { role: 'engineer', meantFor: 'the new one' }, NOON);
    await acceptInvitation(token, { name: 'Nora New', password: 'a long enough one' }, NOON);
    const spare = await invite(owner, { role: 'conductor', meantFor: 'nobody in the end' }, NOON);
    const [open] = (await peopleOf(owner, NOON)).invitations;
    await withdrawInvitation(owner, open?.id ?? '', NOON);
    const nora = (await peopleOf(owner, NOON)).people.find(({ name }) => name === 'Nora New');
    await setAccess(owner, nora?.accountId ?? '', false, NOON);
    await setAccess(owner, nora?.accountId ?? '', true, NOON);
    const door = testDoor('10.0.0.7');
    await signIn({ name: 'Nora New', password: 'a long enough one' }, door, NOON);
    const person = {
      ...owner,
      accountId: nora?.accountId ?? '',
      name: 'Nora New',
      role: 'engineer' as const,
    };
    const change = { current: 'a long enough one', next: 'another long one' };
    await changePassword(person, change, door, NOON);
    expect(await actions(owner)).toEqual([
      'invitation',
      'joined',
      'invitation',
      'invitation withdrawn',
      'access ended',
      'access given',
      'sign-in',
      'password',
    ]);
    const { body } = await eventsFile(owner);
    for (const secret of [token, spare.token, 'a long enough one', 'another long one']) {
      expect(body).not.toContain(secret);
    }
  });

  it('is searched, filtered and turned, and read by the owner of its studio only', async () => {
    const owner = await testEngineer('Otto Owner');
    for (const about of ['“Verse”', '“Bridge”', '“Coda”']) {
      await recordAlone(owner, about === '“Coda”' ? 'closed' : 'sealed', { about }, NOON);
    }
    const abouts = async (change: object) =>
      (await ask(owner, change)).lines.map(({ about }) => about);
    expect(await abouts({})).toEqual(['“Coda”', '“Bridge”', '“Verse”']);
    expect(await abouts({ sort: 'oldest', action: 'sealed' })).toEqual(['“Verse”', '“Bridge”']);
    expect(await abouts({ q: 'BRIDGE' })).toEqual(['“Bridge”']);
    expect(await ask(owner, { q: 'otto' })).toMatchObject({ found: 3, all: 3, fault: null });
    expect(await abouts({ q: '%' })).toEqual([]);
    const engineer: SignedIn = { ...owner, role: 'engineer' };
    await expect(ask(engineer)).rejects.toMatchObject({ status: 403 });
    await expect(eventsFile(engineer)).rejects.toMatchObject({ status: 403 });
    expect((await ask(await testEngineer('Somebody Else'))).all).toBe(0);
  });

  it('says nothing of what was taken back', async () => {
    const owner = await testEngineer('Undo Ulla');
    const failing = transaction(async (tx) => {
      await record(tx, owner, 'sealed', { about: 'never' }, NOON);
      throw new Error('taken back');
    });
    await expect(failing).rejects.toThrow('taken back');
    await recordAlone(owner, 'sealed', { about: 'for real' }, NOON);
    expect((await ask(owner)).lines).toMatchObject([{ n: 1, about: 'for real', before: null }]);
  });

  it('numbers what happens at once one after another', async () => {
    const owner = await testEngineer('Busy Bea');
    await Promise.all(
      Array.from({ length: 12 }, (_, i) =>
        recordAlone(owner, 'exported', { about: `file ${i}` }, NOON),
      ),
    );
    const list = await ask(owner, { sort: 'oldest' });
    expect(list.lines.map(({ n }) => n)).toEqual(Array.from({ length: 12 }, (_, i) => i + 1));
    expect(list.fault).toBeNull();
  });
});

describe('what stands in the log', () => {
  it.each([
    ['changed', `UPDATE event SET record = '{}'`],
    ['taken away', 'DELETE FROM event'],
    ['emptied', 'TRUNCATE event'],
  ])('cannot be %s by the bank’s own account', async (_, statement) => {
    await expect(db().rows(statement)).rejects.toThrow(/permission denied|stays/);
  });

  it('cannot be changed even with the rights given back, while its guard stands', async () => {
    await db().rows('GRANT UPDATE, DELETE, TRUNCATE ON event TO CURRENT_USER');
    const owner = await testEngineer('Guarded Gus');
    await recordAlone(owner, 'sealed', {}, NOON);
    for (const statement of ['UPDATE event SET n = n', 'DELETE FROM event', 'TRUNCATE event']) {
      await expect(db().rows(statement)).rejects.toThrow('what stands in the log stays');
    }
  });

  it('tells where somebody took the guard away and changed it', async () => {
    const owner = await testEngineer('Tampered Tom');
    for (const about of ['one', 'two', 'three'])
      await recordAlone(owner, 'sealed', { about }, NOON);
    await db().rows('ALTER TABLE event DISABLE TRIGGER event_stays');
    await db().rows('GRANT UPDATE, DELETE ON event TO CURRENT_USER');
    await db().rows(
      `UPDATE event SET record = replace(record, 'two', 'too') WHERE studio_id = $1 AND n = 2`,
      [owner.studioId],
    );
    expect((await ask(owner)).fault).toBe(2);
    // What is no entry at all is told in the same way, and the page is still there.
    await db().rows(`UPDATE event SET record = '{' WHERE studio_id = $1 AND n = 2`, [
      owner.studioId,
    ]);
    expect(await ask(owner)).toMatchObject({ fault: 2, lines: [{ n: 3 }, { n: 1 }] });
    await db().rows('DELETE FROM event WHERE studio_id = $1 AND n = 2', [owner.studioId]);
    expect((await ask(owner)).fault).toBe(2);
  });
});
