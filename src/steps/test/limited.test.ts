import { Random } from '@/core/signal/random';
import { db } from '@/platform/database';
import {
  acceptInvitation,
  changeShown,
  invite,
  peopleOf,
  shownTo,
} from '@/platform/sign-in/people';
import { type SignedIn, signedIn, signIn } from '@/platform/sign-in/service';
import { NOON, testDoor, testEngineer, withTestDatabase } from '@/platform/test/database';
import { chainsOf, changeChain, copyOf } from '@/steps/chains/service';
import {
  comparisonOf,
  comparisonsFound,
  createComparison,
  removeComparison,
  restoreComparison,
} from '@/steps/comparisons/service';
import { trainingOf, traineeOfEngineer } from '@/steps/ears/service';
import { addGear, removeGear } from '@/steps/gear/service';
import { roomsOf } from '@/steps/listening/conductor';
import { bridgeOver } from '@/steps/memory/bridge';
import { gearStory, heardList, proposeBench } from '@/steps/memory/service';
import { binOf } from '@/steps/overview/bin';
import { reportsOf } from '@/steps/overview/reports';
import { searchBank } from '@/steps/overview/search';
import { comparisonList } from '@/steps/overview/service';
import { analysed, answeredSitting } from './answered';
import { bankWithClips } from './bank';
import { plainGear } from './gear';

withTestDatabase();

const PASSWORD = 'lantern under snow';
const ALL = { q: '', sort: 'newest', page: 1 } as const;

let owner: SignedIn;
/** Sees the comparison that the panel answered; sees another one only. */
let shown: SignedIn;
let elsewhere: SignedIn;
let comparisonId: string;
let otherId: string;
let capsule: string;

async function limitedEngineer(name: string, comparisonIds: string[]): Promise<SignedIn> {
  const { token } = await invite(owner, { role: 'engineer', limited: true, meantFor: name }, NOON);
  await acceptInvitation(token, { name, password: PASSWORD }, NOON);
  const { signInId } = await signIn({ name, password: PASSWORD }, testDoor(), NOON);
  const person = (await signedIn(signInId, NOON))!;
  // Whoever comes in so sees nothing at first.
  expect((await comparisonList(person, ALL)).all).toBe(0);
  await changeShown(owner, person.accountId, { limited: true, comparisonIds }, NOON);
  return person;
}

const draft = (title: string) => ({ title, question: '', sourceName: 'Lute', passageName: 'tune' });

beforeAll(async () => {
  owner = { ...(await testEngineer('Mirela Voss')), role: 'owner' };
  const bank = await bankWithClips(owner);
  ({ comparisonId } = bank);
  capsule = await addGear(owner, plainGear('Ufer C1', { kind: 'microphone' }), NOON);
  for (const { id, ...chain } of await chainsOf(owner, comparisonId)) {
    const gear = [{ gearId: capsule, settings: {} }];
    await changeChain(owner, comparisonId, id, { ...chain, gear });
  }
  const [best, middle, worst] = [2, 0, 1].map((i) => bank.chainIds[i]!) as [string, string, string];
  const sittingId = await answeredSitting(owner, comparisonId, {
    aliases: Array.from({ length: 12 }, (_, i) => `L${i + 1}`),
    liking: () => [best, middle, worst],
    parts: [{ trials: 3 }],
    random: new Random(7),
  });
  await analysed(sittingId);
  otherId = await createComparison(owner, draft('Lute by the window'), NOON);
  shown = await limitedEngineer('Aino Kallas', [comparisonId]);
  elsewhere = await limitedEngineer('Bertil Lind', [otherId]);
});

/** Everything that leads over all comparisons, as somebody is answered it. */
async function answers(engineer: SignedIn) {
  const { title } = await comparisonOf(owner, comparisonId);
  const story = await gearStory(engineer, capsule, 1);
  return {
    list: (await comparisonList(engineer, ALL)).lines.map(({ id }) => id),
    picker: (await comparisonsFound(engineer, '')).map(({ id }) => id),
    search: (await searchBank(engineer, title)).found.filter(({ kind }) => kind !== 'gear').length,
    reports: (await reportsOf(engineer, ALL)).rows.map((row) => row.comparisonId),
    heard: (await heardList(engineer, ALL)).lines.map((line) => line.comparisonId),
    story: story && { standings: story.standings.length, holders: story.holders.all },
    bench: (await proposeBench(engineer, title))?.places,
    training: (await trainingOf(traineeOfEngineer(engineer))).sounds.length,
    links: (await bridgeOver(engineer, null)).links.length,
    rooms: (await roomsOf(engineer)).length,
  };
}

it('is shown what the owner sees of a comparison, and of others nothing', async () => {
  const all = await answers(owner);
  expect(all.list.sort()).toEqual([comparisonId, otherId].sort());
  const own = await answers(shown);
  expect(own).toEqual({ ...all, list: [comparisonId], picker: [comparisonId] });
  expect(own.reports.length + own.heard.length).toBeGreaterThan(1);
  expect(own.story?.standings).toBeGreaterThan(0);
  expect(await answers(elsewhere)).toMatchObject({
    list: [otherId],
    picker: [otherId],
    search: 0,
    reports: [],
    heard: [],
    bench: 0,
    training: 0,
    links: 0,
    rooms: 0,
  });
  expect((await answers(elsewhere)).story).toMatchObject({ standings: 0, holders: 0 });
});

it('can neither open, remove nor bring back what is not shown', async () => {
  for (const work of [
    comparisonOf(elsewhere, comparisonId),
    removeComparison(elsewhere, comparisonId, NOON),
    restoreComparison(elsewhere, comparisonId),
    copyOf(elsewhere, comparisonId, NOON),
  ]) {
    await expect(work).rejects.toMatchObject({ status: 404 });
  }
  // Why an item stays is told without a name from there.
  const { accountId } = elsewhere;
  await expect(removeGear(elsewhere, capsule, NOON)).rejects.toThrow('not shown to you');
  await expect(removeGear(shown, capsule, NOON)).rejects.toThrow('The chain “');
  const removed = await createComparison(owner, draft('Removed again'), NOON);
  await removeComparison(owner, removed, new Date());
  expect((await binOf({ ...elsewhere, accountId }, ALL, new Date())).all).toBe(0);
  expect((await binOf(owner, ALL, new Date())).all).toBe(1);
});

it('sees what they start or copy themselves', async () => {
  const started = await createComparison(shown, draft('Begun by Aino'), NOON);
  const copied = await copyOf(shown, comparisonId, NOON);
  expect((await comparisonList(shown, ALL)).lines.map(({ id }) => id).sort()).toEqual(
    [comparisonId, started, copied].sort(),
  );
  await expect(comparisonOf(elsewhere, started)).rejects.toMatchObject({ status: 404 });
  expect((await comparisonOf(owner, started)).title).toBe('Begun by Aino');
  expect((await shownTo(owner, shown.accountId)).comparisonIds.sort()).toEqual(
    [comparisonId, started, copied].sort(),
  );
});

it('sees all once the owner says so, and only the owner says', async () => {
  const all = { limited: false, comparisonIds: [] };
  await expect(changeShown(elsewhere, elsewhere.accountId, all, NOON)).rejects.toThrow(
    'Only the owner',
  );
  await changeShown(owner, elsewhere.accountId, all, NOON);
  expect((await comparisonOf(elsewhere, comparisonId)).id).toBe(comparisonId);
  expect(
    (await peopleOf(owner, NOON)).people.find(({ name }) => name === 'Bertil Lind'),
  ).toMatchObject({
    limited: false,
    shown: 0,
  });
  const { token } = await invite(owner, { role: 'conductor', limited: true, meantFor: 'C' }, NOON);
  await acceptInvitation(token, { name: 'Cem', password: PASSWORD }, NOON);
  const [cem] = await db().rows<{ id: string; limited: boolean }>(
    "SELECT id, limited FROM account WHERE name = 'Cem'",
  );
  expect(cem?.limited).toBe(false);
  await expect(changeShown(owner, cem!.id, all, NOON)).rejects.toMatchObject({ status: 422 });
});
