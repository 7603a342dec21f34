import { randomUUID } from 'node:crypto';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testColleague, testEngineer, withTestDatabase } from '@/platform/test/database';
import { one } from '@/platform/one';
import { roomsOf } from '@/steps/listening/conductor';
import { addDevice, answer, finishStage, join, viewFor } from '@/steps/listening/service';
import { panelQuery } from '@/steps/panel/schema';
import { addPanelist, changePanelist, panelOf } from '@/steps/panel/service';
import { bankWithClips, HERE, openTestSitting } from '@/steps/test/bank';
import { linkQuery, type ListenerQuery, listenerQuery } from './schema';
import {
  addLinks,
  askableOf,
  changeLink,
  changeSharedLink,
  closeSitting,
  forget,
  forgetPanelist,
  linksOf,
  listenersOf,
  release,
  renewLink,
  sittingsOf,
} from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

const LATER = new Date(NOON.getTime() + 3600_000);
const person = (alias: string) => ({
  alias,
  experience: 'sings in a choir',
  hearing: 'the left ear is a little dull',
  playback: 'closed headphones',
});
const joining = (alias: string) => ({
  alias,
  playback: 'headphones' as const,
  consent: true as const,
});
const given = (position: number) => ({
  position,
  answer: { choice: 'first' as const },
  key: randomUUID(),
  heardS: [3, 3],
  switches: 2,
  durationS: 60,
});

/** An open sitting with a link for somebody new on the panel. */
const listeners = async (sittingId: string, query: Partial<ListenerQuery> = {}) => {
  const asked = listenerQuery.parse(query);
  return (await listenersOf(engineer, bank.comparisonId, sittingId, asked)).rows;
};

async function invited(alias: string) {
  const { comparisonId } = bank;
  const { sittingId, token } = await openTestSitting(engineer, comparisonId);
  const panelistId = await addPanelist(engineer, person(alias), NOON);
  const ids = [panelistId, panelistId];
  const made = await one(addLinks(engineer, comparisonId, sittingId, ids, NOON));
  const links = async () => {
    const { rows } = await linksOf(engineer, comparisonId, sittingId, linkQuery.parse({}));
    return rows;
  };
  const known = await one(links());
  const link = { id: known.id, token: made.token, panelistId };
  return { comparisonId, sittingId, token, panelistId, link, links };
}

describe('a link of one’s own', () => {
  it('holds one seat; another device is counted, and sets its level anew', async () => {
    const { link, links, panelistId, sittingId } = await invited('Aino');
    expect(await viewFor(link.token, undefined)).toMatchObject({
      phase: 'join',
      alias: null,
      invitedAs: 'Aino',
    });
    const laptop = await join(link.token, joining('Aino'), HERE, NOON);
    await finishStage(link.token, laptop, { stage: 'level' });
    await finishStage(link.token, laptop, { stage: 'practice' });
    expect((await viewFor(link.token, laptop)).phase).toBe('trial');

    // On the phone, where no cookie is: the link alone shows and does nothing.
    for (const cookie of [undefined, 'made up']) {
      expect(await viewFor(link.token, cookie)).toMatchObject({
        phase: 'device',
        alias: null,
        answered: 0,
        clips: [],
      });
      await expect(answer(link.token, cookie, given(1), NOON)).rejects.toMatchObject({
        status: 401,
      });
    }
    await expect(join(link.token, joining('Aino too'), HERE, NOON)).rejects.toMatchObject({
      status: 409,
    });
    const phone = await addDevice(link.token, HERE, LATER);
    expect(await viewFor(link.token, phone)).toMatchObject({ phase: 'level', devices: 2 });
    await expect(answer(link.token, phone, given(1), NOON)).rejects.toMatchObject({ status: 409 });
    await finishStage(link.token, phone, { stage: 'level' });
    expect((await viewFor(link.token, phone)).phase).toBe('trial');
    await answer(link.token, phone, given(1), NOON);
    expect(await viewFor(link.token, laptop)).toMatchObject({ alias: 'Aino', answered: 1 });
    expect(await links()).toMatchObject([{ panelistId, joined: true, withdrawn: false }]);
    const [seat] = await listeners(sittingId);
    expect(seat?.devices).toEqual([NOON.toISOString(), LATER.toISOString()]);
    const {
      people: [history],
    } = await panelOf(engineer, panelQuery.parse({}));
    expect(history).toMatchObject({
      alias: 'Aino',
      sittings: 1,
      answers: 1,
      minutes: 1,
      lastAt: NOON,
    });
  });

  it('cannot be read anywhere once it was shown, and a new one ends the old', async () => {
    const { comparisonId, sittingId, link } = await invited('Gero');
    const stored = await db().rows('SELECT * FROM listener_link WHERE id = $1', [link.id]);
    const view = await sittingsOf(engineer, comparisonId);
    for (const text of [JSON.stringify(stored), JSON.stringify(view)]) {
      expect(text).not.toContain(link.token);
    }
    const seat = await join(link.token, joining('Gero'), HERE, NOON);
    const { token } = await renewLink(engineer, comparisonId, sittingId, link.id);
    await expect(viewFor(link.token, seat)).rejects.toMatchObject({ status: 404 });
    // The seat and its device stay.
    expect(await viewFor(token, seat)).toMatchObject({ phase: 'level', alias: 'Gero' });
  });

  it('keeps a seat that nobody else can take, as many as there are', async () => {
    const { comparisonId } = bank;
    const { sittingId, token } = await openTestSitting(engineer, comparisonId, { seats: 2 });
    const ids = [];
    for (const alias of ['Hedda', 'Ivo', 'Jana']) {
      ids.push(await addPanelist(engineer, person(alias), NOON));
    }
    await expect(addLinks(engineer, comparisonId, sittingId, ids, NOON)).rejects.toThrow(
      'No link was made',
    );
    const hedda = await one(addLinks(engineer, comparisonId, sittingId, ids.slice(0, 1), NOON));
    await join(token, joining('First'), HERE, NOON);
    expect(await viewFor(token, undefined)).toMatchObject({ phase: 'full' });
    await expect(join(token, joining('Second'), HERE, NOON)).rejects.toThrow('All seats');
    await join(hedda.token, joining('Hedda'), HERE, NOON);
  });

  it('is withdrawn at once and given back; answers stay', async () => {
    const { comparisonId, sittingId, link } = await invited('Bero');
    const seat = await join(link.token, joining('Bero'), HERE, NOON);
    await finishStage(link.token, seat, { stage: 'level' });
    await finishStage(link.token, seat, { stage: 'practice' });
    await answer(link.token, seat, given(1), NOON);
    await changeLink(engineer, comparisonId, sittingId, link.id, true, NOON);
    await expect(viewFor(link.token, seat)).rejects.toThrow('was withdrawn');
    await expect(answer(link.token, seat, given(2), NOON)).rejects.toMatchObject({
      status: 404,
    });
    await changeLink(engineer, comparisonId, sittingId, link.id, false, NOON);
    expect(await viewFor(link.token, seat)).toMatchObject({ answered: 1 });
  });

  it('can be given to whoever has none, found by what is typed', async () => {
    const { comparisonId, sittingId } = await invited('Oona Berg');
    await addPanelist(engineer, person('Oona Dahl'), NOON);
    const names = async (q: string) =>
      (await askableOf(engineer, comparisonId, sittingId, q)).map(({ name }) => name);
    expect(await names('OONA')).toEqual(['Oona Dahl']);
    expect(await names('%')).toEqual([]);
    const stranger = await testEngineer('Asking strangers');
    await expect(askableOf(stranger, comparisonId, sittingId, '')).rejects.toMatchObject({
      status: 404,
    });
  });

  it('is for people of one’s own panel and open sittings only', async () => {
    const stranger = await testEngineer('Somebody Else');
    const theirs = await addPanelist(stranger, person('Foreign'), NOON);
    const { comparisonId, sittingId, link, links } = await invited('Ciro');
    await addLinks(engineer, comparisonId, sittingId, [theirs], NOON);
    expect((await links()).map(({ alias }) => alias)).toEqual(['Ciro']);
    await expect(
      changeLink(stranger, comparisonId, sittingId, link.id, true, NOON),
    ).rejects.toMatchObject({ status: 404 });
    await expect(forgetPanelist(stranger, link.panelistId, NOON)).rejects.toMatchObject({
      status: 404,
    });
    await closeSitting(engineer, comparisonId, sittingId, NOON);
    await expect(
      addLinks(engineer, comparisonId, sittingId, [link.panelistId], NOON),
    ).rejects.toMatchObject({ status: 409 });
  });
});

describe('the shared link', () => {
  it('takes nobody new when told so; who sits goes on, personal links still work', async () => {
    const { comparisonId, sittingId, token, link } = await invited('Dara');
    const seat = await join(token, joining('Early'), HERE, NOON);
    await changeSharedLink(engineer, comparisonId, sittingId, false);
    expect(await viewFor(token, undefined)).toMatchObject({ phase: 'full' });
    await expect(join(token, joining('Late'), HERE, NOON)).rejects.toThrow('takes nobody new');
    expect(await viewFor(token, seat)).toMatchObject({ phase: 'level', alias: 'Early' });
    await join(link.token, joining('Dara'), HERE, NOON);
    await changeSharedLink(engineer, comparisonId, sittingId, true);
    await join(token, joining('Late'), HERE, NOON);
  });

  it('takes nobody by it where only invited people may come, then or later', async () => {
    const { comparisonId } = bank;
    const { sittingId, token } = await openTestSitting(engineer, comparisonId, {
      invitedOnly: true,
    });
    expect(await viewFor(token, undefined)).toMatchObject({ phase: 'full' });
    await expect(join(token, joining('Anybody'), HERE, NOON)).rejects.toThrow('takes nobody new');
    await expect(changeSharedLink(engineer, comparisonId, sittingId, true)).rejects.toThrow(
      'invited people only',
    );
  });

  it('takes no more from one place in a short time than a room of people', async () => {
    const { token } = await openTestSitting(engineer, bank.comparisonId, { seats: 100 });
    const crowd = { place: 'one machine', seats: [] };
    for (let i = 0; i < 40; i++) await join(token, joining(`Crowd ${i}`), crowd, NOON);
    await expect(join(token, joining('One more'), crowd, NOON)).rejects.toMatchObject({
      status: 429,
    });
    await join(token, joining('Elsewhere'), { place: 'another machine', seats: [] }, NOON);
  });
});

describe('seats', () => {
  it('on which nothing was answered can be released for others', async () => {
    const { comparisonId } = bank;
    const { sittingId, token } = await openTestSitting(engineer, comparisonId, { seats: 2 });
    const gone = await join(token, joining('Gone'), HERE, NOON);
    const there = await join(token, joining('There'), HERE, NOON);
    await finishStage(token, there, { stage: 'level' });
    await finishStage(token, there, { stage: 'practice' });
    await answer(token, there, given(1), NOON);
    await release(engineer, comparisonId, sittingId, 1);
    await expect(release(engineer, comparisonId, sittingId, 2)).rejects.toThrow('stays taken');
    expect(await viewFor(token, gone)).toMatchObject({ phase: 'join' });
    await join(token, joining('New'), HERE, NOON);
    const seats = await db().rows(
      'SELECT seat, alias FROM listener WHERE sitting_id = $1 ORDER BY seat',
      [sittingId],
    );
    expect(seats).toEqual([
      { seat: 1, alias: 'New' },
      { seat: 2, alias: 'There' },
    ]);
  });

  it('know a browser that took another one', async () => {
    const { sittingId, token, link } = await invited('Kira');
    const first = await join(token, joining('Somebody'), HERE, NOON);
    await join(link.token, joining('Kira'), { place: 'here', seats: [first] }, NOON);
    expect(await listeners(sittingId)).toMatchObject([
      { alias: 'Somebody', sameAsSeat: null, sameAs: null },
      { alias: 'Kira', sameAsSeat: 1, sameAs: 'Somebody' },
    ]);
  });

  it('take a name once, however it is written, and none of somebody forgotten', async () => {
    const { token } = await openTestSitting(engineer, bank.comparisonId, { seats: 20 });
    await join(token, joining('Annika'), HERE, NOON);
    for (const same of [
      'ANNIKA',
      '\u0410nnik\u0430',
      'Ann\u200bika',
      '\uff21nnika',
      ' annika ',
      'Anni\u00adka',
    ]) {
      await expect(join(token, joining(same), HERE, NOON)).rejects.toMatchObject({ status: 409 });
    }
    await join(token, joining('Anneke'), HERE, NOON);
    for (const forged of ['Listener 3 (forgotten)', 'listener 3 (f\u043erg\u043etten)']) {
      await expect(join(token, joining(forged), HERE, NOON)).rejects.toThrow('was forgotten');
    }
  });

  it('of somebody forgotten take no more answers, by the device or by the link', async () => {
    const { comparisonId, sittingId, token, link } = await invited('Lior');
    const own = await join(link.token, joining('Lior'), HERE, NOON);
    const shared = await join(token, joining('Mona'), HERE, NOON);
    await forget(engineer, comparisonId, sittingId, 1, NOON);
    await forget(engineer, comparisonId, sittingId, 2, NOON);
    await expect(viewFor(link.token, own)).rejects.toMatchObject({ status: 404 });
    await expect(join(link.token, joining('Lior'), HERE, NOON)).rejects.toMatchObject({
      status: 404,
    });
    await expect(
      changeLink(engineer, comparisonId, sittingId, link.id, false, NOON),
    ).rejects.toMatchObject({ status: 404 });
    await expect(viewFor(token, shared)).rejects.toThrow('forgotten');
    const back = { place: 'here', seats: [shared] };
    await expect(join(token, joining('Mona again'), back, NOON)).rejects.toThrow('forgotten');
  });
});

describe('the panel', () => {
  it('knows each name once and can be changed', async () => {
    const id = await addPanelist(engineer, person('Edda'), NOON);
    await expect(addPanelist(engineer, person('edda'), NOON)).rejects.toThrow(
      'on the panel already',
    );
    await changePanelist(engineer, id, { ...person('Edda'), hearing: '' });
    const { people } = await panelOf(engineer, panelQuery.parse({}));
    expect(people.find((one) => one.id === id)?.hearing).toBe('');
  });

  it('forgets a person in every sitting, and keeps their answers', async () => {
    const { comparisonId, sittingId, link, panelistId } = await invited('Filip');
    const seat = await join(link.token, joining('Filip'), HERE, NOON);
    await finishStage(link.token, seat, { stage: 'level' });
    await finishStage(link.token, seat, { stage: 'practice' });
    const remark = 'It is me, Filip: the second.';
    await answer(link.token, seat, { ...given(1), remark }, NOON);
    await forgetPanelist(engineer, panelistId, NOON);
    const kept = await db().rows('SELECT remark FROM answer WHERE sitting_id = $1', [sittingId]);
    expect(kept).toEqual([{ remark: '' }]);
    await expect(viewFor(link.token, undefined)).rejects.toMatchObject({ status: 404 });
    expect(await askableOf(engineer, comparisonId, sittingId, 'filip')).toEqual([]);
    expect(await listeners(sittingId)).toMatchObject([
      { alias: 'Listener 1 (forgotten)', answers: 1 },
    ]);
    const traces = await db().rows(
      `SELECT 1 FROM listener WHERE alias ILIKE '%filip%' UNION ALL
       SELECT 1 FROM panelist WHERE alias ILIKE '%filip%'`,
    );
    expect(traces).toEqual([]);
  });
});

it('shows a conductor the rooms of the studio that are open, and nothing of what is in them', async () => {
  const conductor = await testColleague(engineer, 'Cem Aydin', 'conductor');
  const before = (await roomsOf(conductor)).length;
  await openTestSitting(engineer, bank.comparisonId, { room: 'together' });
  await openTestSitting(engineer, bank.comparisonId);
  const rooms = await roomsOf(conductor);
  expect(rooms.length).toBe(before + 1);
  expect(Object.keys(rooms[0]!).sort()).toEqual(['joined', 'seats', 'sittingId', 'title']);
  expect(await roomsOf(await testEngineer('Elsewhere'))).toEqual([]);
});

it('a sitting’s listeners are searched, sorted and turned on the server', async () => {
  const { token, sittingId } = await openTestSitting(engineer, bank.comparisonId, { seats: 40 });
  for (let n = 1; n <= 27; n++) {
    const seat = await join(token, joining(`Person ${String(n).padStart(2, '0')}`), HERE, NOON);
    if (n !== 3) continue;
    await finishStage(token, seat, { stage: 'level' });
    await finishStage(token, seat, { stage: 'practice' });
    await finishStage(token, seat, { stage: 'level-changed' });
    await answer(token, seat, given(1), NOON);
  }
  const names = async (query: Partial<ListenerQuery>) =>
    (await listeners(sittingId, query)).map(({ alias }) => alias);
  expect(await names({})).toHaveLength(25);
  // A page behind the last is the last.
  for (const page of [2, 9]) expect(await names({ page })).toEqual(['Person 26', 'Person 27']);
  expect(await names({ q: 'PERSON 1' })).toHaveLength(10);
  expect(await names({ q: '%' })).toEqual([]);
  expect((await names({ sort: 'volume' }))[0]).toBe('Person 03');
  expect((await names({ sort: 'answers', page: 2 })).at(-1)).toBe('Person 03');
  const foreign = await testEngineer('Not of this studio');
  await expect(
    listenersOf(foreign, bank.comparisonId, sittingId, listenerQuery.parse({})),
  ).rejects.toMatchObject({ status: 404 });
});
