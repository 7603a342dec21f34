import Papa from 'papaparse';
import { createHash, randomUUID } from 'node:crypto';
import { measure } from '@/core/loudness/meter';
import { canonicalJson } from '@/core/design/seal';
import { analyzeResults } from '@/core/statistics/analyze';
import { decodeWav } from '@/core/wav/read';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { one } from '@/platform/one';
import { removeChain } from '@/steps/takes/service';
import {
  analysisOrder,
  analysisJson,
  answersCsv,
  keepAnalysis,
  keyFile,
  resultsOf,
} from '@/steps/results/service';
import { closeSitting, openSitting, planSitting, sittingsOf } from '@/steps/sitting/service';
import { HERE, bankWithClips, CHAIN_NAMES, openTestSitting, testPlan } from '@/steps/test/bank';
import { analyseSitting, servedCopy } from '@/worker/tasks';
import { type Answering, answering } from './schema';
import type { ListenerView } from './views';
import { answer, clipFor, finishStage, join, keyForListener, viewFor } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

async function seated(token: string, alias: string): Promise<string> {
  const seat = await join(token, { alias, playback: 'headphones', consent: true }, HERE, NOON);
  await finishStage(token, seat, { stage: 'level' });
  await finishStage(token, seat, { stage: 'practice' });
  return seat;
}

function given(position: number, change: Partial<Answering> = {}): Answering {
  return {
    position,
    answer: { choice: 'first' },
    key: randomUUID(),
    heardS: [3, 3],
    switches: 2,
    durationS: 9,
    ...change,
  };
}

const answersIn = async (sittingId: string) =>
  db().rows<{ position: number; choice: string }>(
    "SELECT position, answer->>'choice' AS choice FROM answer WHERE sitting_id = $1 ORDER BY answered_at, position",
    [sittingId],
  );

describe('answers', () => {
  it('are kept once, whatever is sent twice, at once or later', async () => {
    const { token, sittingId } = await openTestSitting(engineer, bank.comparisonId);
    const seat = await seated(token, 'Aino');
    const first = given(1);
    await Promise.all(
      Array.from({ length: 8 }, () => answer(token, seat, first, NOON).catch(() => 0)),
    );
    await answer(token, seat, first, NOON);
    expect(await answersIn(sittingId)).toEqual([{ position: 1, choice: 'first' }]);
    // Another answer to the same trial changes nothing.
    await expect(
      answer(token, seat, given(1, { answer: { choice: 'second' } }), NOON),
    ).rejects.toMatchObject({
      status: 409,
    });
    // Two windows with different answers at once: one of them is kept.
    const both = await Promise.allSettled([
      answer(token, seat, given(2, { answer: { choice: 'second' } }), NOON),
      answer(token, seat, given(2, { answer: { choice: 'tie' } }), NOON),
    ]);
    expect(both.filter(({ status }) => status === 'fulfilled').length).toBe(1);
    expect((await answersIn(sittingId)).length).toBe(2);
  });

  it('hold a remark where somebody has one, once, and within its length', async () => {
    const { token, sittingId } = await openTestSitting(engineer, bank.comparisonId);
    const seat = await seated(token, 'Bela');
    const said = given(1, { remark: 'boxy, the second one' });
    await answer(token, seat, said, NOON);
    // The same sending again says nothing new.
    await answer(token, seat, { ...said, remark: 'another' }, NOON);
    await answer(token, seat, given(2), NOON);
    const kept = await db().rows(
      'SELECT remark FROM answer WHERE sitting_id = $1 ORDER BY position',
      [sittingId],
    );
    expect(kept).toEqual([{ remark: 'boxy, the second one' }, { remark: '' }]);
    expect(answering.safeParse(given(3, { remark: 'x'.repeat(201) })).success).toBe(false);
    expect(answering.parse(given(3, { remark: '  near ' })).remark).toBe('near');
    // Nothing that a listener is told afterwards holds it.
    expect(JSON.stringify(await viewFor(token, seat))).not.toContain('boxy');
  });

  it('are refused when forged: out of turn, unheard, of nobody, with a used key', async () => {
    const { token, sittingId } = await openTestSitting(
      engineer,
      bank.comparisonId,
      {},
      { tiesAllowed: false },
    );
    const seat = await join(
      token,
      { alias: 'Bruno', playback: 'earbuds', consent: true },
      HERE,
      NOON,
    );
    await expect(answer(token, seat, given(1), NOON)).rejects.toMatchObject({ status: 409 });
    await finishStage(token, seat, { stage: 'level' });
    await finishStage(token, seat, { stage: 'practice' });
    const refused: [Answering, number][] = [
      [given(2), 409],
      [given(1, { heardS: [0.1, 3] }), 422],
      [given(1, { answer: { choice: 'tie' } }), 422],
    ];
    for (const [forged, status] of refused) {
      await expect(answer(token, seat, forged, NOON)).rejects.toMatchObject({ status });
    }
    await expect(answer(token, 'made-up', given(1), NOON)).rejects.toMatchObject({ status: 401 });
    const used = given(1);
    await answer(token, seat, used, NOON);
    const other = await seated(token, 'Celia');
    await expect(answer(token, other, used, NOON)).rejects.toMatchObject({ status: 409 });
    expect((await answersIn(sittingId)).length).toBe(1);
  });

  it('end when the sitting closes; seats end when they are taken; names are one each', async () => {
    const { token, sittingId } = await openTestSitting(engineer, bank.comparisonId, { seats: 2 });
    const seat = await seated(token, 'Dario');
    await expect(seated(token, 'dario')).rejects.toThrow('taken in this sitting');
    await seated(token, 'Edda');
    await expect(seated(token, 'Farid')).rejects.toThrow('All seats');
    await answer(token, seat, given(1), NOON);
    await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
    await expect(answer(token, seat, given(2), NOON)).rejects.toThrow('closed');
    expect((await viewFor(token, seat)).phase).toBe('closed');
    expect((await answersIn(sittingId)).length).toBe(1);
  });
});

describe('what a listener is told', () => {
  it('is the same for every chain: words, opaque addresses, and nothing that names', async () => {
    const { token } = await openTestSitting(engineer, bank.comparisonId, {}, { trials: 6 });
    const views: ListenerView[] = [];
    const seat = await seated(token, 'Greta');
    for (let position = 1; position <= 6; position++) {
      views.push(await viewFor(token, seat));
      await answer(token, seat, given(position), NOON);
    }
    views.push(await viewFor(token, seat));
    const text = JSON.stringify(views);
    const ids = await db().rows<{ id: string }>(
      'SELECT id::text FROM chain UNION SELECT id::text FROM take',
    );
    for (const secret of [...CHAIN_NAMES, ...ids.map(({ id }) => id)]) {
      expect(text).not.toContain(secret);
    }
    const addresses = views.flatMap(({ clips }) => clips.map(({ address }) => address));
    expect(new Set(addresses).size).toBe(12);
    for (const address of addresses) expect(address).toMatch(/^[A-Za-z0-9_-]{20}$/);
  });

  it('never opens another trial, another seat or an older clip', async () => {
    const { token } = await openTestSitting(engineer, bank.comparisonId);
    const [mine, theirs] = [await seated(token, 'Hanno'), await seated(token, 'Ines')];
    const now = await viewFor(token, mine);
    const address = now.clips[0]!.address;
    expect((await clipFor(token, mine, address)).order.levelLufs).toBeLessThan(0);
    await expect(clipFor(token, theirs, address)).rejects.toMatchObject({ status: 404 });
    await answer(token, mine, given(1), NOON);
    await expect(clipFor(token, mine, address)).rejects.toMatchObject({ status: 404 });
    const later = await db().rows<{ address: string }>(
      'SELECT address FROM trial_clip WHERE position = 1 AND seat = 3',
    );
    await expect(clipFor(token, mine, later[0]!.address)).rejects.toMatchObject({ status: 404 });
  });

  it('sounds equally loud on the very bytes, of equal length, never the same bytes twice', async () => {
    const { token } = await openTestSitting(engineer, bank.comparisonId, {}, { trials: 3 });
    const seat = await seated(token, 'Jarl');
    const copies: Buffer[] = [];
    for (let position = 1; position <= 3; position++) {
      const { clips } = await viewFor(token, seat);
      for (const { address } of clips) {
        copies.push(Buffer.from(await servedCopy((await clipFor(token, seat, address)).order)));
      }
      await answer(token, seat, given(position), NOON);
    }
    expect(new Set(copies.map(({ length }) => length)).size).toBe(1);
    expect(new Set(copies.map((c) => c.subarray(0, 44).toString('hex'))).size).toBe(1);
    expect(new Set(copies.map((c) => createHash('sha256').update(c).digest('hex'))).size).toBe(6);
    const levels: number[] = [];
    for (const copy of copies) {
      const { header, channels } = await decodeWav(copy);
      const measured = measure(channels, header.format);
      levels.push(measured.integratedLufs ?? 0);
      expect(measured.truePeakDbtp).toBeLessThanOrEqual(-0.99);
    }
    expect(Math.max(...levels) - Math.min(...levels)).toBeLessThan(0.05);
  });
});

describe('haste', () => {
  it('is judged by the bank’s clock and by what was really sent, whatever the browser says', async () => {
    const { token, sittingId } = await openTestSitting(engineer, bank.comparisonId);
    const seat = await seated(token, 'Paula');
    const at = (seconds: number) => new Date(NOON.getTime() + 1000 * seconds);
    const fetch = async (seconds: number) => {
      const { clips } = await viewFor(token, seat);
      for (const { address } of clips)
        await (await clipFor(token, seat, address)).sent(at(seconds));
    };
    const slow = { durationS: 500, heardS: [200, 200] };
    await fetch(1);
    await answer(token, seat, given(1, slow), at(3));
    await fetch(4);
    await answer(token, seat, given(2, slow), at(60));
    // Nothing of the third was ever sent.
    await answer(token, seat, given(3, slow), at(120));
    const rows = await db().rows(
      `SELECT position, hasty, unfetched, server_s AS "serverS" FROM answer WHERE sitting_id = $1
       ORDER BY position`,
      [sittingId],
    );
    expect(rows).toEqual([
      { position: 1, hasty: true, unfetched: false, serverS: 2 },
      { position: 2, hasty: false, unfetched: false, serverS: 56 },
      { position: 3, hasty: false, unfetched: true, serverS: 60 },
    ]);
    await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
    const csv = await answersCsv(engineer, bank.comparisonId, sittingId);
    const [head, first, , third] = Papa.parse<string[]>(csv.body).data;
    const cell = (line: string[], name: string) => line[head!.indexOf(name)];
    expect(cell(first!, 'answered_at')).toBe(at(3).toISOString());
    expect(cell(first!, 'first_fetched_at')).toBe(at(1).toISOString());
    expect(cell(first!, 'hasty')).toBe('yes');
    expect(cell(third!, 'unfetched')).toBe('yes');
  });
});

describe('a receipt', () => {
  it('stands for exactly the answers that are kept, and the key comes with closing', async () => {
    const { token, sittingId, seal } = await openTestSitting(engineer, bank.comparisonId);
    const seat = await seated(token, 'Quirin');
    const stranger = await seated(token, 'Rosa');
    for (let position = 1; position <= 3; position++) {
      expect((await viewFor(token, seat)).receipt).toBeNull();
      await answer(token, seat, given(position), NOON);
    }
    const view = await viewFor(token, seat);
    const told = [1, 2, 3].map((position) => ({ answer: given(position).answer, position }));
    const sha256 = createHash('sha256').update(canonicalJson(told)).digest('hex');
    expect(view).toMatchObject({
      seal,
      keyOpen: false,
      receipt: { seat: 1, answers: 3, answersSha256: sha256, lastAt: NOON.toISOString() },
    });
    await expect(keyForListener(token, seat)).rejects.toMatchObject({ status: 409 });
    await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
    const key = await keyForListener(token, seat);
    expect(createHash('sha256').update(key).digest('hex')).toBe(seal);
    expect((await viewFor(token, stranger)).keyOpen).toBe(true);
    await expect(keyForListener(token, undefined)).rejects.toMatchObject({ status: 401 });
  });
});

describe('seal and results', () => {
  it('refuses texts that name a chain', async () => {
    const title = 'Clarinet through the kern 40';
    const draft = await testPlan(bank.comparisonId, { title });
    const id = await planSitting(engineer, bank.comparisonId, draft, NOON);
    await expect(openSitting(engineer, bank.comparisonId, id, draft, NOON)).rejects.toThrow(
      'Kern 40',
    );
    await planSitting(engineer, bank.comparisonId, await testPlan(bank.comparisonId), NOON);
  });

  it('keeps the key shut until closing, then gives exactly what was sealed', async () => {
    const { comparisonId } = bank;
    const { token, sittingId, seal } = await openTestSitting(engineer, comparisonId);
    for (const alias of ['Kaja', 'Lotte', 'Mats']) {
      const seat = await seated(token, alias);
      for (let position = 1; position <= 3; position++) {
        await answer(
          token,
          seat,
          given(position, { answer: { choice: position === 2 ? 'tie' : 'second' } }),
          NOON,
        );
      }
    }
    const shown = JSON.stringify((await sittingsOf(engineer, comparisonId)).sittings);
    const { sealed_key: key } = await one(
      db().rows<{ sealed_key: string }>('SELECT sealed_key FROM sitting WHERE id = $1', [
        sittingId,
      ]),
    );
    const { nonce } = JSON.parse(key) as { nonce: string };
    expect(shown).not.toContain(nonce);
    for (const read of [keyFile, answersCsv, analysisJson]) {
      await expect(read(engineer, comparisonId, sittingId)).rejects.toMatchObject({ status: 409 });
    }
    expect((await resultsOf(engineer, comparisonId, sittingId)).result).toBeNull();

    await closeSitting(engineer, comparisonId, sittingId, NOON);
    const file = await keyFile(engineer, comparisonId, sittingId);
    expect(createHash('sha256').update(file.body).digest('hex')).toBe(seal);
    expect(canonicalJson(JSON.parse(file.body) as never)).toBe(file.body);

    const order = await analysisOrder(sittingId);
    expect(order?.parts[0]?.observations.length).toBe(9);
    if (order) await keepAnalysis(sittingId, analyseSitting(order));
    const { result } = await resultsOf(engineer, comparisonId, sittingId);
    expect(result).toMatchObject({ sealHolds: true, listeners: 3, answers: 9 });
    expect(result?.parts?.[0]?.findings.limits[0]).toContain('Clarinet, bridge');

    // The exported answers are a results file that gives the same analysis again.
    const csv = await answersCsv(engineer, comparisonId, sittingId);
    const again = analyzeResults(Buffer.from(csv.body), 1);
    expect(again.input).toMatchObject({ rowsUsed: 9, listeners: 3 });
    const winsIn = (analysis: typeof again.pair | undefined) =>
      (analysis?.pairs ?? [])
        .flatMap(({ a, b, aWins, bWins }) => [`${a} over ${b} ${aWins}`, `${b} over ${a} ${bWins}`])
        .sort();
    expect(winsIn(again.pair)).toEqual(winsIn(result?.parts?.[0]?.analysis.results.pair));
    expect(winsIn(again.pair)).toHaveLength(6);
    expect(await analysisOrder(sittingId)).toBeNull();
  });

  it('a chain with clips stays', async () => {
    await expect(
      removeChain(engineer, bank.comparisonId, bank.chainIds[1]!, NOON),
    ).rejects.toMatchObject({
      status: 409,
    });
  });
});
