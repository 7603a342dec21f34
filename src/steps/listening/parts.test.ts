import { randomUUID } from 'node:crypto';
import { measure } from '@/core/loudness/meter';
import { analyzeResults } from '@/core/statistics/analyze';
import { TASK_IDS, TASKS } from '@/core/tasks';
import type { Answer } from '@/core/tasks/task';
import { decodeWav } from '@/core/wav/read';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import {
  analysisOrder,
  answersCsv,
  answersJson,
  keepAnalysis,
  resultsOf,
} from '@/steps/results/service';
import { closeSitting, forget } from '@/steps/sitting/service';
import { HERE, bankWithClips, CHAIN_NAMES, openTestSitting } from '@/steps/test/bank';
import { analyseSitting, servedCopy } from '@/worker/tasks';
import type { ListenerView } from './views';
import { answer, clipFor, finishStage, join, viewFor } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

const WORDS = ['bright', 'dark'];

/** A sitting of every task, two trials each. */
async function everyTask() {
  const pair: [string, string] = [bank.chainIds[0]!, bank.chainIds[1]!];
  const parts = TASK_IDS.map((task) => ({
    task,
    trials: 2,
    pair: TASKS[task].ofOnePair ? pair : null,
    controls: { self: true, levelCatch: true, repeats: 1 },
    words: task === 'words' ? WORDS : [],
  }));
  return openTestSitting(engineer, bank.comparisonId, { seats: 6 }, ...parts);
}

/** Some answer that fits; `right` is the slot that the key holds. */
function fitting({ part, clips }: ListenerView, right: number | null): Answer {
  switch (part.task) {
    case 'pair':
      return { choice: 'second' };
    case 'line':
      return { places: clips.map((_, i) => 10 * i) };
    case 'likeness':
      return { places: clips.slice(1).map((_, i) => 30 * i) };
    case 'reference':
      return { places: [60] };
    case 'words':
      return { words: ['bright'] };
    default:
      return part.learning ? { learned: true } : { slot: right ?? 0 };
  }
}

async function walk(token: string, alias: string): Promise<ListenerView[]> {
  const seat = await join(token, { alias, playback: 'headphones', consent: true }, HERE, NOON);
  await finishStage(token, seat, { stage: 'level' });
  await finishStage(token, seat, { stage: 'practice' });
  const keys = await db().rows<{ position: number; right: number | null }>(
    `SELECT position, right_slot AS right FROM trial JOIN listener USING (sitting_id, seat)
     WHERE alias = $1 ORDER BY position`,
    [alias],
  );
  const views: ListenerView[] = [];
  for (const { position, right } of keys) {
    let view = await viewFor(token, seat);
    if (view.phase === 'part') {
      expect(view.clips).toEqual([]);
      // A part cannot be skipped, and its trials are shut until it is begun.
      await finishStage(token, seat, { stage: 'part', part: view.part.number + 1 });
      await finishStage(token, seat, { stage: 'part', part: view.part.number });
      view = await viewFor(token, seat);
    }
    expect(view).toMatchObject({ phase: 'trial', position });
    views.push(view);
    await answer(
      token,
      seat,
      {
        position,
        answer: fitting(view, right) as never,
        key: randomUUID(),
        heardS: view.clips.map(() => 3),
        switches: 1,
        durationS: 20,
      },
      // Half a minute for each, but for the second, which comes a second after the first.
      new Date(NOON.getTime() + 1000 * (position === 2 ? 31 : 30 * position)),
    );
  }
  expect((await viewFor(token, seat)).phase).toBe('finished');
  return views;
}

it('every task is walked to its end, closed, and read in its own way', async () => {
  const { token, sittingId } = await everyTask();
  const views = await walk(token, 'Aino');
  for (const alias of ['Bruno', 'Celia', 'Dario']) await walk(token, alias);
  // What a trial is for, and what would be right, is never told.
  const text = JSON.stringify(views);
  for (const secret of [...CHAIN_NAMES, 'louder', 'repeat', '"right', '"gain']) {
    expect([secret, text.includes(secret)]).toEqual([secret, false]);
  }
  expect(new Set(views.map(({ part }) => Object.keys(part).join())).size).toBe(1);
  const words = views.flatMap(({ clips }) => clips.map(({ word }) => word));
  // Named in the twins, against the reference with its control and repeat, and where likeness is asked.
  expect(words.filter((word) => word === 'Reference').length).toBe(2 + 4 + 2);

  await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
  const order = await analysisOrder(sittingId);
  if (!order) throw new Error('nothing to analyse');
  await keepAnalysis(sittingId, analyseSitting(order));
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  expect(result?.parts?.map(({ task }) => task)).toEqual(TASK_IDS);
  const of = (task: string) => result?.parts?.find((part) => part.task === task)?.analysis.results;
  // All were right: 8 of 8 in the named pair; triangle and duo-trio over the three pairs.
  expect(of('two-interval')?.audibility).toMatchObject([{ n: 8, correct: 8, clipped: true }]);
  expect(of('memory')?.recall).toMatchObject({ n: 8, correct: 8, pOneSided: 1 / 256 });
  const triangles = of('triangle')?.audibility ?? [];
  expect(triangles.reduce((sum, { correct }) => sum + correct, 0)).toBe(8);
  // One line of three slips and a repeat, eight times; the repeat is no second rating.
  expect(of('line')?.rating?.chains.reduce((sum, { n }) => sum + n, 0)).toBe(8 * 3);
  expect(of('line')?.controls.places?.n).toBe(8);
  // The hidden reference is no chain of its own test: everybody placed all at 60, the reference, too.
  expect(of('reference')?.rating?.chains.map(({ mean }) => mean)).toEqual([60, 60]);
  expect(of('reference')?.against).toMatchObject([
    { listeners: 4, listenersWithHidden: 4, difference: 0, p: null },
    { listeners: 4, listenersWithHidden: 4, difference: 0, p: null },
  ]);
  expect(of('reference')?.controls.hidden).toEqual({ n: 4, mean: 60, scale: '' });
  expect(of('likeness')?.rating?.chains.map(({ n }) => n)).toEqual([8, 8]);
  expect(of('likeness')?.against).toEqual([]);
  expect(of('likeness')?.controls.hidden).toMatchObject({ n: 8, scale: 'likeness' });
  expect(of('words')?.attributes).toMatchObject([{ word: 'bright' }]);
  // The second was always chosen: in controls, too; and a pair asked again the other way round shows it.
  expect(result?.parts?.find(({ task }) => task === 'pair')?.controls).toEqual([
    'A recording against itself, 4 times: the first was chosen 0 times, the second 4, neither 0.',
    expect.stringMatching(/^The same recording 1 dB louder, 4 times/),
    expect.stringMatching(/^Pairs asked twice: 0 of 4 were answered alike the other way round/),
  ]);
  expect(result?.pace.map(({ hasty }) => hasty)).toEqual([1, 1, 1, 1]);

  // The table is a results file again, controls and answers from memory included.
  const csv = await answersCsv(engineer, bank.comparisonId, sittingId);
  const again = analyzeResults(Buffer.from(csv.body), 1);
  expect(again.audibility.find(({ task }) => task === 'two-interval')).toMatchObject({
    n: 8,
    correct: 8,
    byListener: ['Aino', 'Bruno', 'Celia', 'Dario'].map((listener) => ({ listener, correct: 2 })),
  });
  expect(again.recall).toEqual(of('memory')?.recall);
  expect(again.controls.levelCatch).toEqual(of('pair')?.controls.levelCatch);
  const json = JSON.parse((await answersJson(engineer, bank.comparisonId, sittingId)).body) as {
    answers: { kind: string }[];
  };
  expect(json.answers.length).toBe(4 * views.length);
  expect(json.answers.filter(({ kind }) => kind === 'louder').length).toBe(4);
});

it('who asks to be forgotten goes from the panel and the results; the answers stay', async () => {
  const { token, sittingId } = await openTestSitting(engineer, bank.comparisonId);
  const names = ['Greta', 'Hanno'];
  for (const alias of names) await walk(token, alias);
  const seat = await join(token, { alias: 'Ines', playback: 'earbuds', consent: true }, HERE, NOON);
  const { comparisonId } = bank;
  const leave = (who: number) => forget(engineer, comparisonId, sittingId, who, NOON);
  await leave(3);
  // The browser of the forgotten is told so, and takes no other seat.
  await expect(viewFor(token, seat)).rejects.toThrow('You were forgotten');
  await closeSitting(engineer, comparisonId, sittingId, NOON);
  const read = async () => {
    const order = await analysisOrder(sittingId);
    if (order) await keepAnalysis(sittingId, analyseSitting(order));
    return JSON.stringify((await resultsOf(engineer, comparisonId, sittingId)).result);
  };
  expect(await read()).toContain('Hanno');
  await leave(2);
  const [after, csv] = [await read(), await answersCsv(engineer, comparisonId, sittingId)];
  for (const text of [after, csv.body]) {
    expect(text).toContain('Greta');
    expect(text).toContain('Listener 2 (forgotten)');
    expect(text).not.toContain('Hanno');
  }
  expect(csv.body.split('\r\n').length).toBe(1 + 2 * 3);
  await expect(leave(9)).rejects.toMatchObject({ status: 404 });
});

it('answers of another task, of too many slips, or unheard are refused', async () => {
  const { token } = await openTestSitting(
    engineer,
    bank.comparisonId,
    {},
    { task: 'line', trials: 1 },
  );
  const seat = await join(
    token,
    { alias: 'Edda', playback: 'headphones', consent: true },
    HERE,
    NOON,
  );
  await finishStage(token, seat, { stage: 'level' });
  await finishStage(token, seat, { stage: 'practice' });
  const send = (given: Answer, heardS: number[]) =>
    answer(
      token,
      seat,
      {
        position: 1,
        answer: given as never,
        key: randomUUID(),
        heardS,
        switches: 0,
        durationS: 30,
      },
      NOON,
    );
  for (const [given, heardS] of [
    [{ choice: 'first' }, [3, 3, 3]],
    [{ places: [1, 2] }, [3, 3, 3]],
    [{ places: [1, 2, 3] }, [3, 3]],
    [{ places: [1, 2, 3] }, [3, 3, 0.2]],
  ] as [Answer, number[]][]) {
    await expect(send(given, heardS)).rejects.toMatchObject({ status: 422 });
  }
  await send({ places: [0, 100, 50] }, [3, 3, 3]);
});

it('a clip of the control that asks for loudness is one decibel louder, and no other', async () => {
  const { token, sittingId } = await openTestSitting(
    engineer,
    bank.comparisonId,
    {},
    { trials: 1, controls: { self: true, levelCatch: true, repeats: 1 } },
  );
  const seat = await join(
    token,
    { alias: 'Farid', playback: 'headphones', consent: true },
    HERE,
    NOON,
  );
  await finishStage(token, seat, { stage: 'level' });
  await finishStage(token, seat, { stage: 'practice' });
  const levels: number[] = [];
  for (let position = 1; position <= 4; position++) {
    const { clips } = await viewFor(token, seat);
    for (const { address } of clips) {
      const { header, channels } = await decodeWav(
        await servedCopy((await clipFor(token, seat, address)).order),
      );
      levels.push(measure(channels, header.format).integratedLufs ?? 0);
    }
    const given = { position, answer: { choice: 'tie' as const }, key: randomUUID() };
    await answer(token, seat, { ...given, heardS: [3, 3], switches: 0, durationS: 30 }, NOON);
  }
  // Self, louder, a pair and its repeat: of eight copies one is louder by 1 dB.
  levels.sort((a, b) => a - b);
  expect(levels[6]! - levels[0]!).toBeLessThan(0.05);
  expect(levels[7]! - levels[6]!).toBeCloseTo(1, 1);
  const rows = await db().rows<{ kind: string; gains: number[] }>(
    `SELECT kind, array_agg(gain_db ORDER BY gain_db) AS gains
     FROM trial JOIN trial_clip USING (sitting_id, seat, position)
     WHERE sitting_id = $1 GROUP BY kind, seat, position`,
    [sittingId],
  );
  for (const { kind, gains } of rows) {
    expect(gains.filter((gain) => gain !== 0)).toEqual(kind === 'louder' ? [1] : []);
  }
});
