import { randomUUID } from 'node:crypto';
import { ANALYSIS_PLAN } from '@/core/statistics/analysis-plan';
import { Random } from '@/core/signal/random';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { type PartDraft, type SittingDraft, sittingDraft } from '@/steps/sitting/schema';
import { insertAnswer, insertListener } from '@/steps/sitting/seats';
import { brief } from '@/steps/comparisons/schema';
import { changeComparison, comparisonOf, sourcesSeen } from '@/steps/comparisons/service';
import { closeSitting } from '@/steps/sitting/service';
import { analysed, answeredSitting } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES, openTestSitting, testPlan } from '@/steps/test/bank';
import { analysisJson, answersCsv, resultsOf } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

const answered = (
  aliases: string[],
  liking: string[] | ((listener: number, position: number) => string[]),
  change: Partial<SittingDraft> = {},
  ...parts: Partial<PartDraft>[]
) => answeredSitting(engineer, bank.comparisonId, { aliases, liking, change, parts });

it('reads a unanimous panel: the winner of each pair is the chain they liked', async () => {
  const liking = [bank.chainIds[2]!, bank.chainIds[0]!, bank.chainIds[1]!];
  const aliases = [
    'Ada',
    'Ben',
    'Cleo',
    'Dag',
    'Ellen',
    'Finn',
    'Gro',
    'Hauk',
    'Ida',
    'Jo',
    'Kim',
    'Liv',
  ];
  const sittingId = await answered(aliases, liking);
  const waiting = await resultsOf(engineer, bank.comparisonId, sittingId);
  expect(waiting.result).toMatchObject({ parts: null, sealHolds: true });
  await expect(analysisJson(engineer, bank.comparisonId, sittingId)).rejects.toThrow(
    'still being made',
  );
  await analysed(sittingId);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  const part = result?.parts?.[0];
  const analysis = part?.analysis.results.pair;
  expect(analysis?.fit.method).toBe('penalised');
  expect(part?.findings.headline).toBe(`${CHAIN_NAMES[2]} is preferred.`);
  const ranked = [...(analysis?.overall ?? [])].sort(
    (x, y) => (y.logStrength ?? 0) - (x.logStrength ?? 0),
  );
  expect(ranked.map(({ chain }) => chain)).toEqual([
    CHAIN_NAMES[2],
    CHAIN_NAMES[0],
    CHAIN_NAMES[1],
  ]);
  for (const row of analysis?.pairs ?? []) expect(Math.max(row.aWins, row.bWins)).toBe(12);
  // All decided and no circle: ζ is 1 for everyone.
  expect(analysis?.circularTriads.every(({ zeta }) => zeta === 1)).toBe(true);
  expect(result?.pace).toHaveLength(12);
  expect(result?.pace[0]).toMatchObject({ answers: 3, medianS: 12 });
  const json = JSON.parse((await analysisJson(engineer, bank.comparisonId, sittingId)).body) as {
    parts: { warnings: { code: string }[] }[];
  };
  expect(json.parts[0]!.warnings.map(({ code }) => code)).toContain('separation');
});

it('exports names that a spreadsheet would run as a formula with an apostrophe', async () => {
  const sittingId = await answered(
    ['=HYPERLINK("x")', 'Quote " and, comma', 'Ünï 🎧'],
    bank.chainIds,
  );
  const { body } = await answersCsv(engineer, bank.comparisonId, sittingId);
  expect(body).toContain(`"'=HYPERLINK(""x"")"`);
  expect(body).toContain('"Quote "" and, comma"');
  expect(body).toContain('Ünï 🎧');
  expect(body.split('\r\n').length).toBe(10);
});

it('says when nobody answered, and keeps results of several sittings apart', async () => {
  const { sittingId } = await openTestSitting(engineer, bank.comparisonId);
  await closeSitting(engineer, bank.comparisonId, sittingId, new Date());
  await analysed(sittingId);
  const empty = await resultsOf(engineer, bank.comparisonId, sittingId);
  expect(empty.result).toMatchObject({
    answers: 0,
    parts: [{ findings: { headline: 'Nobody answered.' } }],
  });
  const latest = await resultsOf(engineer, bank.comparisonId, null);
  expect(latest.result?.sittingId).toBe(sittingId);
  expect(latest.sittings.length).toBeGreaterThanOrEqual(3);
  expect((await resultsOf(engineer, bank.comparisonId, randomUUID())).result).toBeNull();
});

it('makes an analysis that did not come about when closing is asked for again', async () => {
  const sittingId = await answered(['Again'], bank.chainIds);
  const jobs = () =>
    db().rows<{ id: string }>('SELECT id FROM work WHERE subject_id = $1', [sittingId]);
  const close = () => closeSitting(engineer, bank.comparisonId, sittingId, new Date());
  expect((await jobs()).length).toBe(1);
  await close();
  expect((await jobs()).length).toBe(1);
  await db().rows(`UPDATE work SET state = 'failed' WHERE subject_id = $1`, [sittingId]);
  await close();
  expect((await jobs()).length).toBe(2);
  await analysed(sittingId);
  await db().rows(`UPDATE work SET state = 'done' WHERE subject_id = $1`, [sittingId]);
  await close();
  expect((await jobs()).length).toBe(2);
});

it('notices a key that was changed after sealing', async () => {
  const sittingId = await answered(['Solo'], bank.chainIds);
  await db().rows(
    `UPDATE sitting SET sealed_key = replace(sealed_key, '"seats":3', '"seats":4') || ' ' WHERE id = $1`,
    [sittingId],
  );
  expect((await resultsOf(engineer, bank.comparisonId, sittingId)).result?.sealHolds).toBe(false);
});

it('reads anew, once, what an older version of the program made', async () => {
  const sittingId = await answered(['Older'], bank.chainIds);
  await analysed(sittingId);
  await db().rows(`UPDATE work SET state = 'done' WHERE subject_id = $1`, [sittingId]);
  await db().rows(`UPDATE sitting SET analysis = '{"parts": []}' WHERE id = $1`, [sittingId]);
  const jobs = () => db().rows('SELECT id FROM work WHERE subject_id = $1', [sittingId]);
  const before = (await jobs()).length;
  for (let look = 0; look < 2; look++) {
    const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
    expect(result).toMatchObject({ parts: null, answers: 3 });
    expect((await jobs()).length).toBe(before + 1);
  }
  await analysed(sittingId);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  expect(result?.parts?.[0]?.findings.headline).toContain('One listener');
  expect(result?.sealedReading).toBeNull();
});

it('tells when another version of the analysis was sealed', async () => {
  const sittingId = await answered(['Before'], bank.chainIds);
  await db().rows(
    `UPDATE sitting SET sealed_key = replace(sealed_key, '"analysisVersion":${ANALYSIS_PLAN.version}', '"analysisVersion":4')
     WHERE id = $1`,
    [sittingId],
  );
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  expect(result?.sealedReading).toBe(4);
});

it('reads the sealed primary part by itself, and claims nothing of another part where it shows nothing', async () => {
  const aliases = Array.from({ length: 12 }, (_, i) => `Listener ${i + 1}`);
  const [a, b, c] = bank.chainIds as [string, string, string];
  // In the first part everybody differs, each order of three as often as its reverse; in the second all like c.
  const orders = [
    [a, b, c],
    [c, b, a],
    [b, c, a],
    [a, c, b],
    [c, a, b],
    [b, a, c],
  ];
  const liking = (i: number, position: number) => (position <= 3 ? orders[i % 6]! : [c, a, b]);
  const headlines = async (primaryPart: number) => {
    const sittingId = await answered(aliases, liking, { primaryPart }, {}, {});
    await analysed(sittingId);
    const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
    const key = await db().rows<{ key: string }>(
      'SELECT sealed_key AS key FROM sitting WHERE id = $1',
      [sittingId],
    );
    expect(JSON.parse(key[0]!.key)).toMatchObject({ plan: { primaryPart } });
    return result?.parts?.map(({ primary, claimed, findings }) => {
      const headline = findings.headline.split(/[ ,]/).slice(0, 2).join(' ');
      return { primary, claimed, headline };
    });
  };
  expect(await headlines(2)).toEqual([
    { primary: false, claimed: false, headline: 'No preference' },
    { primary: true, claimed: true, headline: CHAIN_NAMES[2] },
  ]);
  expect(await headlines(1)).toEqual([
    { primary: true, claimed: false, headline: 'No preference' },
    { primary: false, claimed: false, headline: 'Nothing is' },
  ]);
});

it('keeps to a primary part that there is', async () => {
  const plan = await testPlan(bank.comparisonId, { primaryPart: 2 });
  expect(sittingDraft.safeParse(plan).error?.issues[0]?.message).toBe(
    'Choose the primary part among those there are.',
  );
});

it('holds the answers against the question as it was sealed, not as it was written later', async () => {
  const [a, , c] = bank.chainIds as [string, string, string];
  const write = async (nullHypothesis: string, favouriteChainId: string) => {
    const comparison = await comparisonOf(engineer, bank.comparisonId);
    const prediction = { favouriteChainId, toldApart: 'surely', remark: '' };
    const change = {
      ...comparison,
      sources: await sourcesSeen(engineer, bank.comparisonId),
      brief: brief.parse({ nullHypothesis, smallestSharePct: 70, prediction }),
    };
    await changeComparison(engineer, bank.comparisonId, change, NOON);
  };
  await write('The preamp makes no difference.', a);
  // Nine in ten answers go to the chain that comes first in an order that all but some share.
  const liking = (i: number, position: number) =>
    (i + position) % 9 === 0 ? [...bank.chainIds].reverse() : bank.chainIds;
  const aliases = Array.from({ length: 12 }, (_, i) => `Sealed ${i + 1}`);
  // Which answers are turned round depends on the orders, so these are the same each time.
  const sittingId = await answeredSitting(engineer, bank.comparisonId, {
    aliases,
    liking,
    parts: [{}, {}],
    random: new Random(1),
  });
  await write('Something else.', c);
  await analysed(sittingId);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  const { question, answers, picture, listeners } = result?.across ?? {};
  expect(question).toMatchObject({
    nullHypothesis: 'The preamp makes no difference.',
    smallestSharePct: 70,
    prediction: { by: engineer.name, favouriteChainId: CHAIN_NAMES[0] },
  });
  expect(answers?.liked.sentence).toContain(CHAIN_NAMES[0]);
  expect(answers?.nullHypothesis).toMatchObject({ verdict: 'rejected' });
  expect(answers?.predictions.map(({ about, said }) => [about, said])).toEqual([
    ['winner', CHAIN_NAMES[0]],
    ['distinguishable', 'yes'],
  ]);
  // Both parts are of one place; the primary one is shown, and nothing leaves the scale.
  expect(picture).toHaveLength(1);
  expect(picture?.[0]).toMatchObject({ part: 1, unit: 'share', claimed: true });
  for (const { value, from, to } of picture?.[0]?.chains ?? []) {
    expect([0, from, value, to, 100].map(Number)).toEqual(
      [0, from, value, to, 100].map(Number).sort((x, y) => x - y),
    );
  }
  const ranks = listeners?.rows.map((row) => row.ranks[CHAIN_NAMES[0]!]) ?? [];
  expect(ranks).toHaveLength(12);
  expect(Math.max(...ranks.map(Number))).toBeLessThan(3);
});

it('reads sittings that were sealed without a question', async () => {
  const sittingId = await answered(['Early'], bank.chainIds);
  await db().rows(
    `UPDATE sitting SET sealed_key = (sealed_key::jsonb #- '{plan,question}')::text WHERE id = $1`,
    [sittingId],
  );
  await analysed(sittingId);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  expect(result?.across).toMatchObject({
    question: null,
    answers: { nullHypothesis: null, predictions: [] },
  });
});

it('gives no verdict on right answers of a room whose places came out uneven', async () => {
  const [a, b] = bank.chainIds as [string, string];
  const headline = async (trials: number) => {
    const { sittingId } = await openTestSitting(
      engineer,
      bank.comparisonId,
      { seats: 8, room: 'together' },
      { task: 'triangle', pair: [a, b], trials, tiesAllowed: false },
    );
    const right = await db().rows<{ position: number; slot: number }>(
      `SELECT position, right_slot AS slot FROM trial WHERE sitting_id = $1 AND seat = 1`,
      [sittingId],
    );
    for (let i = 1; i <= 8; i++) {
      const who = { sittingId, seat: i, alias: `R${i}`, playback: 'loudspeakers' as const };
      const listenerId = await insertListener(db(), { ...who, simulated: false }, NOON);
      for (const { position, slot } of right) {
        const given = { position, answer: { slot }, key: randomUUID(), heardS: [4, 4, 4] };
        const how = { switches: 2, durationS: 20, hasty: false, serverS: 20, unfetched: false };
        await insertAnswer(db(), { listenerId, sittingId, seat: i }, { ...given, ...how }, NOON);
      }
    }
    await closeSitting(engineer, bank.comparisonId, sittingId, new Date());
    await analysed(sittingId);
    const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
    const part = result?.parts?.[0];
    const said = part?.findings.headline ?? '';
    return {
      verdict: /can be told apart/.test(said),
      none: /^No verdict/.test(said),
      claimed: part?.claimed,
    };
  };
  // The odd one stood in each of three places once; of four trials it stood in one place twice.
  expect(await headline(3)).toEqual({ verdict: true, none: false, claimed: true });
  expect(await headline(4)).toEqual({ verdict: false, none: true, claimed: false });
});
