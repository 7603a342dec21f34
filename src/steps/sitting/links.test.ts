import { randomUUID } from 'node:crypto';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { roomsOf } from '@/steps/listening/conductor';
import { answer, finishStage, join, viewFor } from '@/steps/listening/service';
import { addPanelist, changePanelist, panelOf } from '@/steps/panel/service';
import { bankWithClips, openTestSitting } from '@/steps/test/bank';
import {
  addLinks,
  changeLink,
  changeSharedLink,
  closeSitting,
  forgetPanelist,
  sittingsOf,
} from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

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
async function invited(alias: string) {
  const { comparisonId } = bank;
  const { sittingId, token } = await openTestSitting(engineer, comparisonId);
  const panelistId = await addPanelist(engineer, person(alias), NOON);
  await addLinks(engineer, comparisonId, sittingId, [panelistId, panelistId], NOON);
  const links = async () => {
    const { sittings } = await sittingsOf(engineer, comparisonId);
    return sittings.find(({ id }) => id === sittingId)?.links ?? [];
  };
  const [link] = await links();
  return { comparisonId, sittingId, token, panelistId, link, links };
}

describe('a link of one’s own', () => {
  it('holds one seat, on whatever device it is opened', async () => {
    const { link, links, panelistId } = await invited('Aino');
    expect(await viewFor(link.token, undefined)).toMatchObject({
      phase: 'join',
      alias: null,
      invitedAs: 'Aino',
    });
    await join(link.token, joining('Aino'), NOON);
    // On the phone, where no cookie is.
    await join(link.token, joining('Aino too'), NOON);
    await finishStage(link.token, undefined, { stage: 'level' });
    await finishStage(link.token, 'another cookie', { stage: 'practice' });
    await answer(link.token, undefined, given(1), NOON);
    expect(await viewFor(link.token, undefined)).toMatchObject({ alias: 'Aino', answered: 1 });
    expect(await links()).toMatchObject([{ panelistId, joined: true, withdrawn: false }]);
    const [history] = await panelOf(engineer);
    expect(history).toMatchObject({
      alias: 'Aino',
      sittings: 1,
      answers: 1,
      minutes: 1,
      lastAt: NOON,
    });
  });

  it('is withdrawn at once and given back; answers stay', async () => {
    const { comparisonId, sittingId, link } = await invited('Bero');
    await join(link.token, joining('Bero'), NOON);
    await finishStage(link.token, undefined, { stage: 'level' });
    await finishStage(link.token, undefined, { stage: 'practice' });
    await answer(link.token, undefined, given(1), NOON);
    await changeLink(engineer, comparisonId, sittingId, link.id, true, NOON);
    await expect(viewFor(link.token, undefined)).rejects.toThrow('was withdrawn');
    await expect(answer(link.token, undefined, given(2), NOON)).rejects.toMatchObject({
      status: 404,
    });
    await changeLink(engineer, comparisonId, sittingId, link.id, false, NOON);
    expect(await viewFor(link.token, undefined)).toMatchObject({ answered: 1 });
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
    const seat = await join(token, joining('Early'), NOON);
    await changeSharedLink(engineer, comparisonId, sittingId, false);
    expect(await viewFor(token, undefined)).toMatchObject({ phase: 'full' });
    await expect(join(token, joining('Late'), NOON)).rejects.toThrow('takes nobody new');
    expect(await viewFor(token, seat)).toMatchObject({ phase: 'level', alias: 'Early' });
    await join(link.token, joining('Dara'), NOON);
    await changeSharedLink(engineer, comparisonId, sittingId, true);
    await join(token, joining('Late'), NOON);
  });
});

describe('the panel', () => {
  it('knows each name once and can be changed', async () => {
    const id = await addPanelist(engineer, person('Edda'), NOON);
    await expect(addPanelist(engineer, person('edda'), NOON)).rejects.toThrow(
      'on the panel already',
    );
    await changePanelist(engineer, id, { ...person('Edda'), hearing: '' });
    expect((await panelOf(engineer)).find((one) => one.id === id)?.hearing).toBe('');
  });

  it('forgets a person in every sitting, and keeps their answers', async () => {
    const { comparisonId, sittingId, link, panelistId } = await invited('Filip');
    await join(link.token, joining('Filip'), NOON);
    await finishStage(link.token, undefined, { stage: 'level' });
    await finishStage(link.token, undefined, { stage: 'practice' });
    await answer(link.token, undefined, given(1), NOON);
    await forgetPanelist(engineer, panelistId, NOON);
    await expect(viewFor(link.token, undefined)).rejects.toMatchObject({ status: 404 });
    const { sittings, panel } = await sittingsOf(engineer, comparisonId);
    expect(panel.map(({ alias }) => alias)).not.toContain('Filip');
    const sitting = sittings.find(({ id }) => id === sittingId);
    expect(sitting?.listeners).toMatchObject([{ alias: 'Listener 1 (forgotten)', answers: 1 }]);
    const traces = await db().rows(
      `SELECT 1 FROM listener WHERE alias ILIKE '%filip%' UNION ALL
       SELECT 1 FROM panelist WHERE alias ILIKE '%filip%'`,
    );
    expect(traces).toEqual([]);
  });
});

it('shows a conductor the rooms of the studio that are open, and nothing of what is in them', async () => {
  const conductor: SignedIn = { ...engineer, accountId: randomUUID(), role: 'conductor' };
  const before = (await roomsOf(conductor)).length;
  await openTestSitting(engineer, bank.comparisonId, { room: 'together' });
  await openTestSitting(engineer, bank.comparisonId);
  const rooms = await roomsOf(conductor);
  expect(rooms.length).toBe(before + 1);
  expect(Object.keys(rooms[0]).sort()).toEqual(['conductorToken', 'joined', 'seats', 'title']);
  expect(await roomsOf(await testEngineer('Elsewhere'))).toEqual([]);
});
