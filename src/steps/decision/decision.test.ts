import { createHash } from 'node:crypto';
import { Random } from '@/core/signal/random';
import { db, transaction } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testColleague, testEngineer, withTestDatabase } from '@/platform/test/database';
import { changeChain, chainsOf } from '@/steps/chains/service';
import { brief } from '@/steps/comparisons/schema';
import {
  changeComparison,
  comparisonOf,
  createComparison,
  sourcesSeen,
} from '@/steps/comparisons/service';
import type { GearDraft } from '@/steps/gear/schema';
import { addGear } from '@/steps/gear/service';
import { overviewOf } from '@/steps/overview/service';
import { resultsOf } from '@/steps/results/service';
import { analysed, answeredSitting } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES } from '@/steps/test/bank';
import { plainGear } from '@/steps/test/gear';
import { forecastPanel } from '@/worker/tasks';
import { calendarFile, decisionsCsv, decisionsJson, marksCsv, marksJson } from './files';
import {
  type DecisionDraft,
  decisionDraft,
  type MarkDraft,
  memoryQuery,
  NO_WEIGHING,
} from './schema';
import {
  askForecast,
  decidedList,
  decisionOf,
  forecastOrder,
  giveMarks,
  keepForecast,
  lockDecision,
  weigh,
} from './service';
import { dropForecast } from './store';

withTestDatabase();

let engineer: SignedIn;
let colleague: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
const BEFORE = new Date('2026-03-01T10:00:00Z');
const LATER = new Date('2036-03-01T10:00:00Z');
const MUST = 'fits on the bus';

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  colleague = await testColleague(engineer, 'Ossian Falk');
  bank = await bankWithClips(engineer);
  const { comparisonId } = bank;
  const comparison = await comparisonOf(engineer, comparisonId);
  const written = brief.parse({
    criteria: [
      { name: 'build', weight: 3 },
      { name: 'service', weight: 1 },
    ],
    mustHaves: [MUST],
    budgetCents: 100_000,
  });
  const sources = await sourcesSeen(engineer, comparisonId);
  const change = { ...comparison, brief: written, sources };
  await changeComparison(engineer, comparisonId, change, NOON);
  const chains = await chainsOf(engineer, comparisonId);
  for (const [i, { id, ...chain }] of chains.entries()) {
    const priceCents = [90_000, 120_000, 40_000][i]!;
    await changeChain(engineer, comparisonId, id, { ...chain, priceCents });
  }
});

const mark = (chain: number, criterion: string, value: MarkDraft['value'], remark = '') => ({
  of: 'chain' as const,
  id: bank.chainIds[chain]!,
  criterion,
  value,
  remark,
});
const view = () => decisionOf(engineer, bank.comparisonId);
const chainIn = async (i: number) =>
  (await view()).chains.find(({ id }) => id === bank.chainIds[i]);

describe('before anybody listened', () => {
  it('says that nothing was heard, and lets the budget knock out what is too dear', async () => {
    const now = await view();
    expect(now.sitting).toBeNull();
    expect(now.finding).toBe('Two chains are left. Nothing was heard blind.');
    expect(now.chains.map(({ out }) => out)).toEqual([false, true, false]);
    expect(now.chains[1]!.mustHaves.map(({ verdict }) => verdict)).toEqual(['fail', 'unknown']);
    expect(now.mustHaves[0]).toMatchObject({ text: 'at most 1,000 € to buy', own: true });
  });

  it('keeps the marks of several people apart, the newest of each, and weighs their mean', async () => {
    const { comparisonId } = bank;
    await giveMarks(engineer, comparisonId, [mark(0, 'build', '2')], BEFORE);
    await giveMarks(engineer, comparisonId, [mark(0, 'Build', '3', 'loose')], NOON);
    await giveMarks(
      colleague,
      comparisonId,
      [mark(0, 'build', '5'), mark(0, 'service', 'no')],
      NOON,
    );
    const chain = await chainIn(0);
    expect(chain?.marks[0]).toMatchObject({ points: 4, spread: [3, 5], item: null });
    expect(chain?.marks[0]?.marks.filter(({ mine }) => mine).length).toBe(1);
    expect(chain?.marks[0]?.marks.find(({ by }) => by === engineer.name)).toMatchObject({
      value: '3',
      remark: 'loose',
      afterReveal: false,
    });
    // (3·4 + 1·1) / 4
    expect(chain).toMatchObject({ score: 3.25, coverage: 1 });
  });

  it('takes a mark back and forgets none of them', async () => {
    const { comparisonId } = bank;
    await giveMarks(
      colleague,
      comparisonId,
      [mark(0, 'service', null)],
      new Date(NOON.getTime() + 1),
    );
    expect((await chainIn(0))?.marks[1]).toBeNull();
    const { body } = await marksCsv(engineer, comparisonId);
    expect(body.split('\r\n').filter((line) => line.includes('service'))).toHaveLength(2);
    expect(body).toContain('taken back');
    const { marks } = JSON.parse((await marksJson(engineer, comparisonId)).body) as {
      marks: { criterion: string; mark: string }[];
    };
    expect(
      marks.filter(({ criterion }) => criterion === 'service').map(({ mark: of }) => of),
    ).toEqual(expect.arrayContaining(['no', 'taken back']));
  });

  it('takes no marks of what is not there, and then none of the others', async () => {
    const { comparisonId } = bank;
    const stranger = { ...mark(0, 'build', '1'), id: '3f0a1d0e-0000-4000-8000-000000000000' };
    await expect(
      giveMarks(engineer, comparisonId, [mark(2, 'build', '1'), stranger], NOON),
    ).rejects.toMatchObject({ status: 404 });
    expect((await chainIn(2))?.marks[0]).toBeNull();
  });

  it('decides a must-have by hand, by a mark or by a spec, and keeps each weighing', async () => {
    const { comparisonId } = bank;
    const [first, , last] = bank.chainIds as [string, string, string];
    const byHand = { [MUST]: { [first]: 'pass', [last]: 'fail' } as const };
    await weigh(engineer, comparisonId, { weighing: { ...NO_WEIGHING, byHand }, version: 0 }, NOON);
    expect((await view()).finding).toContain(`One chain is left, ${CHAIN_NAMES[0]}.`);
    const grounds = { [MUST]: { by: 'mark', criterion: 'build', least: 5 } as const };
    await weigh(
      engineer,
      comparisonId,
      { weighing: { ...NO_WEIGHING, grounds }, version: 1 },
      NOON,
    );
    const now = await view();
    expect(now.chains.map(({ mustHaves }) => mustHaves[1]!.verdict)).toEqual([
      'fail',
      'unknown',
      'unknown',
    ]);
    expect(now.weighed).toMatchObject({ version: 2, afterReveal: false });
    await expect(
      weigh(engineer, comparisonId, { weighing: NO_WEIGHING, version: 1 }, NOON),
    ).rejects.toMatchObject({ status: 409 });
    await weigh(engineer, comparisonId, { weighing: NO_WEIGHING, version: 2 }, NOON);
  });
});

describe('after a panel listened', () => {
  let sittingId: string;
  const aliases = Array.from({ length: 14 }, (_, i) => `L${i}`);
  beforeAll(async () => {
    // All like the third best, most the second over the first; one in seven turns now and then.
    const [a, b, c] = bank.chainIds as [string, string, string];
    const orders = [
      [c, a, b],
      [a, c, b],
      [c, b, a],
      [b, c, a],
    ];
    sittingId = await answeredSitting(engineer, bank.comparisonId, {
      aliases,
      liking: (listener, position) =>
        (listener + position) % 7 === 0 ? orders[1 + (listener % 3)]! : orders[0]!,
      parts: [{ trials: 9 }],
      // Which pair comes when decides how near the second comes to the first.
      random: new Random(3),
    });
  });

  it('says nothing of what was heard while it is being read, and locks nothing on it', async () => {
    expect(await view()).toMatchObject({ reading: true });
    await expect(lock({})).rejects.toMatchObject({ status: 409 });
  });

  it('sets what was heard beside prices, and says who is left', async () => {
    await analysed(sittingId);
    const now = await view();
    expect(now.reading).toBe(false);
    expect(now.chains[2]!.heard[0]).toMatchObject({ leads: true });
    expect(now.finding).toBe(`Two chains are left. ${CHAIN_NAMES[2]} may be the best.`);
    expect(now.cheapest).toBe(CHAIN_NAMES[2]);
  });

  it('marks what is given from now on as given after the reveal', async () => {
    await giveMarks(engineer, bank.comparisonId, [mark(2, 'build', '4')], LATER);
    expect(await view()).toMatchObject({ markCounts: { given: 3, after: 1 } });
  });

  it('works out whether more listeners would change it, asked once, in their own minutes', async () => {
    const { comparisonId } = bank;
    expect((await view()).forecast).toBeNull();
    await askForecast(engineer, comparisonId, sittingId, NOON);
    await askForecast(engineer, comparisonId, sittingId, NOON);
    const queued = await db().rows('SELECT id FROM work WHERE subject_id = $1', [sittingId]);
    expect(queued.length).toBe(2);
    expect((await view()).forecast).toBe('working');
    const order = await forecastOrder(sittingId);
    await keepForecast(sittingId, forecastPanel({ order: order! }));
    expect(await forecastOrder(sittingId)).toBeNull();
    const { forecast } = await view();
    if (!Array.isArray(forecast)) throw new Error('there is no forecast');
    // Nine answers a listener, in the middle of 11 to 19 s each: 2.25 minutes.
    expect(forecast.map(({ listeners, minutes }) => [listeners, minutes])).toEqual([
      [6, 14],
      [12, 27],
      [24, 54],
    ]);
    expect(forecast[0]!.changed).toBeLessThan(0.05);
    const now = await view();
    // It costs least and is the strongest as well, so nothing is lost by it and nothing dearer is on the line.
    expect(now).toMatchObject({ regret: null, steps: [] });
    // What a must-have knocks out takes no part.
    const shares = now.chains.map(({ bestShare }) => bestShare);
    expect(shares[1]).toBeNull();
    expect((shares[0] ?? 0) + (shares[2] ?? 0)).toBeCloseTo(1, 10);
  });

  it('says what one more hundred brought at the link in which two chains differ, of known prices only', async () => {
    const { comparisonId } = bank;
    const add = (change: Partial<GearDraft>) =>
      addGear(
        engineer,
        plainGear('', { priceCents: 50_000, ownership: 'considered', ...change }),
        NOON,
      );
    const preamp = await add({ name: 'Steg P2', kind: 'preamp', priceCents: 40_000 });
    const microphones = [
      await add({ name: 'Ufer C1', attributes: { Weight: '350 g' } }),
      await add({ name: 'Ufer C2', priceCents: 200_000 }),
      await add({ name: 'Ufer C3', priceCents: null }),
    ];
    const chains = await chainsOf(engineer, comparisonId);
    const before = (await view()).chains.map(({ facts: { allCents } }) => allCents);
    for (const [i, { id, ...chain }] of chains.entries()) {
      const gear = [microphones[i]!, preamp].map((gearId) => ({ gearId, settings: {} }));
      await changeChain(engineer, comparisonId, id, { ...chain, gear });
    }
    const { links, toned, measured } = await view();
    expect(measured.map(({ chain, weights }) => [chain, weights])).toEqual([
      [CHAIN_NAMES[0], ['Ufer C1 350 g']],
      [CHAIN_NAMES[1], []],
      [CHAIN_NAMES[2], []],
    ]);
    // Only performances were recorded of them.
    expect(
      measured.every(({ ownNoiseDb, changes }) => ownNoiseDb === null && changes.length === 0),
    ).toBe(true);
    expect(toned).toEqual([]);
    expect(links).toEqual([
      expect.objectContaining({ link: 'microphone', pairs: 1, apartCents: [150_000, 150_000] }),
    ]);
    // The dearer one is the weakest: each hundred brought less, in every panel.
    expect(links[0]!.perHundred.to).toBeLessThan(0);
    for (const { id } of chains) {
      const now = (await chainsOf(engineer, comparisonId)).find((one) => one.id === id)!;
      const old = chains.find((one) => one.id === id)!;
      await changeChain(engineer, comparisonId, id, { ...old, version: now.version });
    }
    expect((await view()).chains.map(({ facts: { allCents } }) => allCents)).toEqual(before);
  });

  it('says which of two that cost the same was preferred, with what the reading says of them', async () => {
    expect((await view()).equalCost).toEqual([]);
    const chains = await chainsOf(engineer, bank.comparisonId);
    const { id, version, ...dear } = chains[1]!;
    // 90,000 and 97,000 lie within a tenth; the first is the best of all.
    await changeChain(engineer, bank.comparisonId, id, { ...dear, version, priceCents: 97_000 });
    const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
    const read = result?.across?.verdicts.find(
      ({ a, b }) => [a, b].sort().join() === [CHAIN_NAMES[0], CHAIN_NAMES[1]].sort().join(),
    );
    expect(read).toBeDefined();
    expect((await view()).equalCost).toEqual([
      {
        a: CHAIN_NAMES[0],
        b: CHAIN_NAMES[1],
        differenceCents: 7_000,
        verdict: read!.verdict,
        preferred: read!.preferred,
      },
    ]);
    await changeChain(engineer, bank.comparisonId, id, { ...dear, version: version + 1 });
  });

  it('can be asked again where it was given up', async () => {
    await db().rows('UPDATE panel_forecast SET content = NULL');
    await transaction((tx) => dropForecast(tx, sittingId));
    expect((await view()).forecast).toBeNull();
  });

  it('tells no other studio', async () => {
    const other = await testEngineer('Somebody Else');
    await expect(decisionOf(other, bank.comparisonId)).rejects.toMatchObject({ status: 404 });
    await expect(askForecast(other, bank.comparisonId, sittingId, NOON)).rejects.toMatchObject({
      status: 404,
    });
    await expect(
      giveMarks(other, bank.comparisonId, [mark(0, 'build', '1')], NOON),
    ).rejects.toMatchObject({ status: 404 });
  });

  const draft = (change: Partial<DecisionDraft>): DecisionDraft => ({
    uses: [{ use: 'clarinet, bridge', verdict: 'chosen', chainId: bank.chainIds[2]! }],
    reasons: [{ text: 'Liked by nearly all.', rests: 'heard' }],
    wouldChange: 'another room',
    decidedBy: 'Mirela Voss',
    listenAgain: '2027-03-14',
    ...change,
  });
  const lock = (change: Partial<DecisionDraft>, version = 0) =>
    lockDecision(engineer, bank.comparisonId, { draft: draft(change), version, sittingId }, NOON);

  it('locks a decision with what lay on the table, under a number that anybody can work out', async () => {
    expect(await lock({})).toEqual({ version: 1 });
    const [locked] = (await view()).locked;
    expect(locked).toMatchObject({ holds: true, record: { version: 1, before: null } });
    expect(locked?.record.uses[0]).toMatchObject({ chain: CHAIN_NAMES[2] });
    const told = locked?.record.evidence.chains.find(({ id }) => id === bank.chainIds[2]);
    expect(told).toMatchObject({ toBuyCents: 40_000, marks: [{ criterion: 'build', points: 4 }] });
    const file = JSON.parse((await decisionsJson(engineer, bank.comparisonId)).body) as {
      decisions: { text: string; sha256: string }[];
    };
    const { text, sha256 } = file.decisions[0]!;
    expect(createHash('sha256').update(text).digest('hex')).toBe(sha256);
    expect(sha256).toBe(locked?.sha256);
  });

  it('keeps older versions readable under newer ones, and no two people write the same one', async () => {
    await expect(lock({}, 0)).rejects.toMatchObject({ status: 409 });
    await lock({ uses: [{ use: 'bridge', verdict: 'postponed', chainId: null }] }, 1);
    const { locked } = await view();
    expect(locked.map(({ record }) => record.version)).toEqual([2, 1]);
    expect(locked[0]!.record.before).toBe(locked[1]!.sha256);
    const csv = (await decisionsCsv(engineer, bank.comparisonId)).body;
    for (const { sha256 } of locked) expect(csv).toContain(sha256);
    expect(csv).toContain(',bridge,postponed,,');
    const both = await Promise.allSettled([lock({}, 2), lock({}, 2)]);
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  });

  it('says so when somebody changed a locked text behind its back', async () => {
    await db().rows(
      "UPDATE decision SET record = replace(record, 'nearly all', 'all') WHERE version = 1",
    );
    const { locked } = await view();
    expect(locked.map(({ holds }) => holds)).toEqual([true, true, false]);
  });

  it('brings the day to listen again into a calendar, and into the list when it is due', async () => {
    const { body } = await calendarFile(engineer, bank.comparisonId);
    expect(body).toMatch(/DTSTART;VALUE=DATE:20270314/);
    expect(body).toMatch(/SUMMARY:Listen again: Clarinet/);
    const stands = async () =>
      (await overviewOf(engineer, bank.comparisonId)).steps.find(({ id }) => id === 'decision');
    expect(await stands()).toMatchObject({ word: 'written', settled: true });
    await lock({ listenAgain: '2026-01-01' }, 3);
    expect(await stands()).toMatchObject({ word: 'listen again', settled: false });
    expect((await overviewOf(engineer, bank.comparisonId)).next).toMatchObject({
      step: 'decision',
      text: 'It is time to listen again.',
    });
  });
});

it('is found again over all comparisons, by voice, use, chain or reason, and by nobody else', async () => {
  const find = async (q: string, by = engineer) => decidedList(by, memoryQuery.parse({ q }));
  const all = await find('');
  expect(all).toMatchObject({ found: 1, all: 1 });
  expect(all.lines[0]).toMatchObject({ due: true, listenAgain: '2026-01-01' });
  // What the chain was liked by stands beside it, as it was when it was locked.
  expect(all.lines[0]!.uses[0]).toMatchObject({ chain: CHAIN_NAMES[2], verdict: 'chosen' });
  expect(all.lines[0]!.uses[0]!.heard[0]).toMatchObject({ leads: true, unit: 'share' });
  for (const q of ['CLARINET', 'nearly all', CHAIN_NAMES[1]!, 'another room', '%']) {
    expect([q, (await find(q)).found]).toEqual([q, q === '%' ? 0 : 1]);
  }
  const other = await testEngineer('Another Studio');
  expect(await find('', other)).toMatchObject({ found: 0, all: 0, lines: [] });
});

it('works without chains and without anything', async () => {
  const id = await createComparison(
    engineer,
    { title: 'Empty', question: '', sourceName: 'cello', passageName: 'verse' },
    NOON,
  );
  const empty = await decisionOf(engineer, id);
  expect(empty.finding).toBe('There are no chains to decide between.');
  await expect(calendarFile(engineer, id)).rejects.toMatchObject({ status: 404 });
});

it.each([
  [{ uses: [] }, 'Say for what use'],
  [{ uses: [{ use: 'verse', verdict: 'chosen', chainId: null }] }, 'Say which chain'],
  [{ reasons: [] }, 'at least one reason'],
  [{ listenAgain: '14 March' }, 'as in 2027-03-14'],
])('refuses a draft with %j', (change, said) => {
  const whole = {
    uses: [{ use: 'verse', verdict: 'postponed', chainId: null }],
    reasons: [{ text: 'x', rests: 'heard' }],
    wouldChange: '',
    decidedBy: 'M',
    listenAgain: null,
  };
  expect(decisionDraft.safeParse(whole).success).toBe(true);
  const { error } = decisionDraft.safeParse({ ...whole, ...change });
  expect(error?.issues.map(({ message }) => message).join()).toContain(said);
});
