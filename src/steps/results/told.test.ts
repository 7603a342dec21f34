import { randomUUID } from 'node:crypto';
import { db } from '@/platform/database';
import { one } from '@/platform/one';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { conduct, makeConductorLink, viewForConductor } from '@/steps/listening/conductor';
import { answer, clipFor, finishStage, join, viewFor } from '@/steps/listening/service';
import type { ListenerView } from '@/steps/listening/views';
import { type SittingDraft, sittingDraft } from '@/steps/sitting/schema';
import { closeSitting, rehearse } from '@/steps/sitting/service';
import { listSittings } from '@/steps/sitting/store';
import { analysed } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES, HERE, openTestSitting, testPlan } from '@/steps/test/bank';
import { ownAnswersOf } from './own';
import { answersCsv, answersJson, resultsOf } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Teller of names');
  bank = await bankWithClips(engineer);
  for (const [i, id] of bank.chainIds.entries()) {
    await db().rows('UPDATE chain SET price_cents = $2 WHERE id = $1', [id, 10_000 * (i + 1)]);
  }
});

const after = (seconds: number) => new Date(NOON.getTime() + 1000 * seconds);

async function seated(token: string, alias: string): Promise<string> {
  const seat = await join(token, { alias, playback: 'headphones', consent: true }, HERE, NOON);
  await finishStage(token, seat, { stage: 'level' });
  await finishStage(token, seat, { stage: 'practice' });
  return seat;
}

const saying = (position: number, choice: 'first' | 'second' = 'first') => ({
  position,
  answer: { choice },
  key: randomUUID(),
  heardS: [3, 3],
  switches: 1,
  durationS: 20,
});

/** Everything that a listener's browser is told up to the end of a part, or of all. */
async function walk(token: string, seat: string, to: number, beginS: number) {
  const seen: ListenerView[] = [];
  for (;;) {
    const view = await viewFor(token, seat);
    seen.push(view);
    if (view.phase === 'part') {
      await finishStage(token, seat, { stage: 'part', part: view.part.number });
      continue;
    }
    if (view.phase !== 'trial' || view.position > to) return seen;
    await answer(token, seat, saying(view.position), after(beginS + view.position));
  }
}

const names = (text: string) => CHAIN_NAMES.filter((name) => text.includes(name));

it('tells names after each part to whoever finished it; what others answer in it from then on does not count', async () => {
  const { token, sittingId } = await openTestSitting(
    engineer,
    bank.comparisonId,
    { reveal: 'after each part' },
    { trials: 3 },
    { trials: 3 },
  );
  const [ada, ben] = [await seated(token, 'Ada'), await seated(token, 'Ben')];
  await answer(token, ben, saying(1), after(1));
  await expect(ownAnswersOf(token, ada)).rejects.toMatchObject({ status: 409 });
  const blind = await walk(token, ada, 3, 10);
  // Up to the end of the part nothing names a chain; then own answers do, and only of that part.
  expect(names(JSON.stringify(blind))).toEqual([]);
  const told = await ownAnswersOf(token, ada);
  expect(told.parts).toHaveLength(1);
  expect(told.parts[0]!.said).toHaveLength(3);
  expect(names(JSON.stringify(told))).toEqual([...CHAIN_NAMES]);
  expect(told).toMatchObject({ agreement: null, findings: [] });
  expect(await viewFor(token, ada)).toMatchObject({ partsTold: 1, keyOpen: false });
  // Ben is not through, so he is told nothing; two of his answers come too late.
  await expect(ownAnswersOf(token, ben)).rejects.toMatchObject({ status: 409 });
  expect(await viewFor(token, ben)).toMatchObject({ partsTold: 0 });
  await walk(token, ben, 6, 100);
  await walk(token, ada, 6, 200);
  expect((await ownAnswersOf(token, ben)).parts).toHaveLength(2);

  const [sitting] = (await listSittings(db(), bank.comparisonId)).filter(
    ({ id }) => id === sittingId,
  );
  expect(sitting!.toldAt).toEqual(after(13));
  await closeSitting(engineer, bank.comparisonId, sittingId, after(300));
  await analysed(sittingId);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  // Of part 1 Ben's two; of part 2, which he finished first, Ada's three.
  expect(result).toMatchObject({ exploratory: { afterNames: 5 }, answers: 7, listeners: 2 });
  expect(result!.parts!.map(({ analysis }) => analysis.answers)).toEqual([4, 3]);
  const csv = String((await answersCsv(engineer, bank.comparisonId, sittingId)).body);
  expect(csv.match(/,told,/g)).toHaveLength(5);
});

it('in a room tells all at once, when nobody is still to answer or the room goes on', async () => {
  const { token, sittingId } = await openTestSitting(
    engineer,
    bank.comparisonId,
    { room: 'together', reveal: 'after each part' },
    { trials: 1 },
    { trials: 1 },
  );
  const { token: conductor } = await makeConductorLink(engineer, sittingId, NOON);
  const arrive = (alias: string) =>
    join(token, { alias, playback: 'loudspeakers', consent: true }, HERE, NOON);
  const [ada, ben] = [await arrive('Ada'), await arrive('Ben')];
  let clock = 0;
  const now = () => after((clock += 1));
  const lead = (what: 'next' | 'heard', from: number) =>
    conduct(conductor, 'desk', { what, from, heardS: [3, 3] }, now());
  await lead('next', 0);
  await lead('heard', 1);
  expect(await viewForConductor(conductor, 'desk')).toMatchObject({ tellsNames: true });
  await answer(token, ada, saying(1), now());
  await expect(ownAnswersOf(token, ada)).rejects.toMatchObject({ status: 409 });
  await answer(token, ben, saying(1), now());
  expect((await ownAnswersOf(token, ada)).parts).toHaveLength(1);
  expect(await viewFor(token, ben)).toMatchObject({ phase: 'waiting', partsTold: 1 });
  await lead('next', 1);
  await lead('heard', 2);
  await answer(token, ada, saying(2), now());
  expect((await ownAnswersOf(token, ada)).parts).toHaveLength(1);
  await lead('next', 2);
  expect((await ownAnswersOf(token, ada)).parts).toHaveLength(2);
  await closeSitting(engineer, bank.comparisonId, sittingId, after(60));
  await analysed(sittingId);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  expect(result).toMatchObject({ exploratory: { afterNames: 0 }, answers: 3 });
});

it('hears own pairs once more with names and prices, kept apart from everything blind', async () => {
  const { token, sittingId } = await openTestSitting(engineer, bank.comparisonId, {
    sightedTrials: 2,
  });
  const ada = await seated(token, 'Ada');
  expect(await viewFor(token, ada)).toMatchObject({ sighted: 2, part: { of: 2, sighted: false } });
  await expect(answer(token, ada, saying(4), NOON)).rejects.toMatchObject({ status: 409 });
  const blind = await walk(token, ada, 3, 0);
  const intro = blind.pop()!;
  // Nothing blind names a chain or a price.
  expect(names(JSON.stringify(blind))).toEqual([]);
  expect(JSON.stringify(blind)).not.toContain('€');
  expect(intro).toMatchObject({
    phase: 'trial',
    position: 4,
    part: { number: 2, of: 2, name: 'Names shown', trials: 2, answered: 0, sighted: true },
  });
  const told = await viewFor(token, ada);
  expect(names(JSON.stringify(told.clips))).toHaveLength(2);
  expect(told.clips.every(({ note }) => /^\d+ €$/.test(note ?? ''))).toBe(true);
  const heard = await db().rows<{ address: string; name: string; price: string }>(
    `SELECT address, name, (price_cents / 100) || ' €' AS price FROM trial_clip
     JOIN chain ON chain.id = chain_id WHERE sitting_id = $1`,
    [sittingId],
  );
  for (const { address, word, note } of told.clips) {
    expect(heard.find((clip) => clip.address === address)).toMatchObject({
      name: word,
      price: note,
    });
  }
  expect((await clipFor(token, ada, told.clips[0]!.address)).order.audioId).toBeGreaterThan(0);

  const given = saying(4, 'second');
  const unheard = { ...given, key: randomUUID(), heardS: [3, 0] };
  await expect(answer(token, ada, unheard, after(50))).rejects.toMatchObject({ status: 422 });
  await answer(token, ada, given, after(50));
  await answer(token, ada, given, after(51));
  await expect(answer(token, ada, saying(4), after(52))).rejects.toMatchObject({ status: 409 });
  await expect(answer(token, ada, saying(6), after(52))).rejects.toMatchObject({ status: 409 });
  expect(await viewFor(token, ada)).toMatchObject({ position: 5, part: { answered: 1 } });
  await answer(token, ada, saying(5, 'second'), after(53));
  expect(await viewFor(token, ada)).toMatchObject({ phase: 'finished', answered: 3 });
  await expect(answer(token, ada, saying(6), after(54))).rejects.toMatchObject({ status: 409 });

  await closeSitting(engineer, bank.comparisonId, sittingId, after(60));
  await expect(answer(token, ada, saying(5), after(61))).rejects.toMatchObject({ status: 409 });
  await analysed(sittingId);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  // Three blind answers count as ever; both pairs were turned round with names in view.
  expect(result).toMatchObject({ answers: 3, exploratory: null });
  expect(result!.parts![0]!.analysis.answers).toBe(3);
  expect(result!.sighted).toMatchObject({ listeners: 1, pairs: 2, same: 0, dearer: { pairs: 2 } });
  const shares = result!.sighted!.dearer!;
  expect(shares.blind + shares.sighted).toBe(1);
  expect(names(result!.sighted!.chains.map(({ chain }) => chain).join())).not.toHaveLength(0);
  const csv = String((await answersCsv(engineer, bank.comparisonId, sittingId)).body);
  expect(csv.match(/,sighted,/g)).toHaveLength(2);
  const file = String((await answersJson(engineer, bank.comparisonId, sittingId)).body);
  const { answers } = JSON.parse(file) as { answers: { sighted: boolean; shown?: object[] }[] };
  const again = answers.filter(({ sighted }) => sighted);
  expect(again.map(({ shown }) => shown?.length)).toEqual([2, 2]);
});

it('a rehearsal walks the pairs with names without telling any', async () => {
  const plan = await testPlan(bank.comparisonId, { sightedTrials: 2 });
  const { token } = await rehearse(engineer, bank.comparisonId, plan, NOON);
  const seat = await seated(token, 'Me');
  const seen = await walk(token, seat, 5, 0);
  expect(seen.at(-1)!.phase).toBe('finished');
  expect(names(JSON.stringify(seen))).toEqual([]);
  expect(seen.some(({ part }) => part.sighted)).toBe(true);
});

it.each<[string, Partial<SittingDraft>]>([
  ['one word for each recording would name it', { reveal: 'after each part', codeMode: 'fixed' }],
  ['Pairs with names at the end need', { sightedTrials: 2, reveal: 'never' }],
  ['Pairs with names at the end need', { sightedTrials: 2, room: 'together' }],
])('is refused: %s', async (sentence, change) => {
  const plan = await testPlan(bank.comparisonId, change);
  const checked = sittingDraft.safeParse(plan);
  expect(checked.error?.issues[0]?.message).toContain(sentence);
});

it('needs a part of pairs for names at the end', async () => {
  const plan = await testPlan(bank.comparisonId, { sightedTrials: 2 }, { task: 'line', trials: 1 });
  expect(sittingDraft.safeParse(plan).success).toBe(false);
});

it('is sealed with the plan', async () => {
  const { sittingId } = await openTestSitting(engineer, bank.comparisonId, {
    sightedTrials: 3,
    reveal: 'after each part',
  });
  const { key } = await one(
    db().rows<{ key: string }>('SELECT sealed_key AS key FROM sitting WHERE id = $1', [sittingId]),
  );
  expect(JSON.parse(key)).toMatchObject({
    plan: { sightedTrials: 3, reveal: 'after each part' },
  });
});
