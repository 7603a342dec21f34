import { randomUUID } from 'node:crypto';
import { db, transaction } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { addChain, chooseReference, copyOf } from '@/steps/chains/service';
import {
  changeComparison,
  comparisonOf,
  createComparison,
  sourceOf,
  sourcesSeen,
} from '@/steps/comparisons/service';
import { seedGear } from '@/worker/demo-gear';
import { recordOnBench } from '@/worker/tasks';
import { putAudio } from '@/platform/audio-store';
import { one } from '@/platform/one';
import { type BenchPlan, type RunSheetPlan, runSheetPlan, storedBenchPlan } from './plans';
import { benchJobs, keepBenchTakes, orderBench } from './recording-bench';
import { clearRunSheet, keepLog, makeRunSheet, runSheetOf } from './run-sheet';
import { runGroups } from './run-groups';
import type { RunLine } from './run-sheet-store';
import { logEntries, type LogEntry, type LogReply } from './log-entry';
import { takesOf } from './service';

withTestDatabase();

let engineer: SignedIn;
let stranger: SignedIn;
let id: string;
let chains: string[];

const DESK = '6f0c0a54-7f1e-4a77-9a43-0d8a5a3c7c01';
const PHONE = '6f0c0a54-7f1e-4a77-9a43-0d8a5a3c7c02';
const NOW = new Date('2026-11-20T11:00:00.000Z');

function keep(
  entries: LogEntry[],
  device: string,
  sentAt = NOW.toISOString(),
  now = NOW,
): Promise<LogReply> {
  return keepLog(engineer, id, { device, sentAt, entries }, now);
}

let plan: RunSheetPlan = {
  order: 'rotated',
  takes: 2,
  referenceEvery: 0,
  days: 1,
  programme: [
    { programme: 'room', details: [] },
    { programme: 'plosives', details: [] },
  ],
  sourceIds: [],
  seed: 1,
};

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  stranger = await testEngineer('Somebody Else');
  const gear = await seedGear(engineer, NOON);
  id = await createComparison(
    engineer,
    { title: 'Sheet', question: '', sourceName: 'Contralto', passageName: 'verse' },
    NOON,
  );
  plan = { ...plan, sourceIds: [(await sourceOf(db(), id, null)).id] };
  chains = [];
  for (const [name, gainDb] of [
    ['Kern 40', undefined],
    ['Ostra R1', 55],
  ] as const) {
    chains.push(
      await addChain(engineer, id, {
        name,
        items: '',
        priceCents: null,
        distanceM: 0.3,
        gear: [
          { gearId: gear.get(name) ?? '', settings: {} },
          { gearId: gear.get('Linie 2') ?? '', settings: { gainDb } },
        ],
      }),
    );
  }
  await chooseReference(engineer, id, { chainId: chains[0]!, reason: '' }, NOON);
});

describe('run sheet', () => {
  it('orders chains around the reference, the test programme after the first take, no plosives at a ribbon', async () => {
    await makeRunSheet(engineer, id, plan);
    const { lines, settings, cautions } = await runSheetOf(engineer, id);
    const said = lines.map((l) => `${l.chainName} ${l.programme} ${l.takeNumber}`);
    expect(said).toEqual([
      'Kern 40 performance 1',
      'Kern 40 room 1',
      'Kern 40 plosives 1',
      'Ostra R1 performance 1',
      'Ostra R1 room 1',
      'Ostra R1 performance 2',
      'Kern 40 performance 2',
    ]);
    const ostra = lines.find(({ chainName }) => chainName === 'Ostra R1');
    expect(ostra).toMatchObject({ plannedGainDb: 55, plannedDistanceM: 0.3 });
    // Without a setting the ladder says what gain brings the voice to -18 dBFS.
    expect(lines[0]!.plannedGainDb).toBeGreaterThan(20);
    expect(settings[chains[1]!]![0]).toContain('Ostra R1');
    expect(cautions.map(({ caution }) => caution.id)).toContain('ribbon-and-phantom');
    // Four minutes and two to change; three for the steps; the last Ostra take needs no change.
    expect(lines.reduce((sum, { minutes }) => sum + minutes, 0)).toBe(6 + 1 + 1 + 6 + 1 + 4 + 6);
  });

  it('orders nothing of a passive ribbon with phantom power on', async () => {
    const set = (phantom: boolean) =>
      db().rows(
        `UPDATE chain_item SET settings = settings || jsonb_build_object('phantom', $2::boolean)
         WHERE chain_id = $1 AND position = (SELECT max(position) FROM chain_item WHERE chain_id = $1)`,
        [chains[1]!, phantom],
      );
    await set(true);
    const { stops } = await runSheetOf(engineer, id);
    expect(stops[chains[1]!]).toMatch(/^Stop: Ostra R1 holds the passive ribbon/);
    await expect(makeRunSheet(engineer, id, plan)).rejects.toThrow('passive ribbon');
    await set(false);
    expect((await runSheetOf(engineer, id)).stops).toEqual({});
  });

  it('takes the log, compares it with the plan, and cannot be confused by late or doubled entries', async () => {
    const { lines } = await runSheetOf(engineer, id);
    const ostra = lines[3]!;
    const entry = (gainDb: number, writtenAt: string) => ({
      lineId: ostra.id,
      done: true,
      gainDb,
      knob: '',
      distanceM: 0.3,
      remark: 'clip slipped',
      writtenAt,
    });
    const late = entry(48, '2026-11-20T10:05:00.000Z');
    await keep([entry(50, '2026-11-20T10:00:00.000Z'), late], DESK);
    await keep([late], DESK);
    await keep([entry(51, '2026-11-20T09:00:00.000Z')], DESK);
    const view = await runSheetOf(engineer, id);
    expect(view.lines[3]).toMatchObject({ done: true, gainDb: 48, remark: 'clip slipped' });
    expect(view.remarks).toEqual(['Ostra R1 was recorded at 48 dB, planned 55.']);
  });

  it('allows for a stand phone whose clock is wrong, and shows what lost beside what won', async () => {
    const { lines } = await runSheetOf(engineer, id);
    const line = lines[4]!;
    const entry = (gainDb: number, writtenAt: string) => ({
      lineId: line.id,
      done: true,
      gainDb,
      knob: '',
      distanceM: null,
      remark: '',
      writtenAt,
    });
    const logOf = async () => (await runSheetOf(engineer, id)).lines[4]!;
    // The phone is a year ahead: it wrote five minutes before it sends, at 10:55.
    await keep([entry(40, '2027-11-20T11:55:00.000Z')], PHONE, '2027-11-20T12:00:00.000Z');
    expect((await logOf()).writtenAt?.toISOString()).toBe('2026-11-20T10:55:00.000Z');
    // Another device without a clock to speak of, too, but with no "now" that helps: never later than it arrives.
    await keep([entry(41, '2030-01-01T00:00:00.000Z')], PHONE, '2026-11-20T11:00:00.000Z');
    expect((await logOf()).writtenAt?.toISOString()).toBe('2026-11-20T11:00:00.000Z');
    // Others are not held off: what is written a minute later wins, and the phone's stands beside it.
    const later = new Date('2026-11-20T11:02:00.000Z');
    await keep([entry(42, '2026-11-20T11:01:00.000Z')], DESK, later.toISOString(), later);
    expect(await logOf()).toMatchObject({ gainDb: 42, other: { gainDb: 41, done: true } });
    // Late from the phone: it lost, is told so, and both can be seen.
    const old = await keep(
      [entry(39, '2026-11-20T11:00:30.000Z')],
      PHONE,
      later.toISOString(),
      later,
    );
    expect(old.lines).toMatchObject([{ id: line.id, overruled: true }]);
    expect(await logOf()).toMatchObject({ gainDb: 42, other: { gainDb: 39 } });
    // What one device says twice is no disagreement.
    await keep([entry(43, later.toISOString())], DESK, later.toISOString(), later);
    expect(await logOf()).toMatchObject({ gainDb: 43, other: { gainDb: 39 } });
    await db().rows(
      'UPDATE run_line SET done = false, gain_db = NULL, written_at = NULL WHERE id = $1',
      [line.id],
    );
  });

  it('knows which source it is of, whichever is chosen', async () => {
    const comparison = await comparisonOf(engineer, id);
    const before = await sourcesSeen(engineer, id);
    const further = { id: null, name: 'Cello', passages: '', capture: 'at once' as const };
    await changeComparison(engineer, id, { ...comparison, sources: [...before, further] }, NOON);
    const [, cello] = await sourcesSeen(engineer, id);
    await clearRunSheet(engineer, id);
    await makeRunSheet(engineer, id, { ...plan, sourceIds: [cello!.id], programme: [] });
    const { lines } = await runSheetOf(engineer, id);
    expect(new Set(lines.map(({ sourceName }) => sourceName))).toEqual(new Set(['Cello']));
    const blank = [
      {
        lineId: lines[0]!.id,
        done: true,
        gainDb: null,
        knob: '',
        distanceM: null,
        remark: '',
        writtenAt: '2026-11-20T10:00:00.000Z',
      },
    ];
    await keep(blank, DESK);
  });

  it('is not written over once something is ticked off, and no stranger reads or writes it', async () => {
    await expect(makeRunSheet(engineer, id, plan)).rejects.toMatchObject({ status: 409 });
    await expect(runSheetOf(stranger, id)).rejects.toMatchObject({ status: 404 });
    await expect(
      keepLog(stranger, id, { device: DESK, sentAt: NOW.toISOString(), entries: [] }, NOW),
    ).rejects.toMatchObject({ status: 404 });
    const other = { ...plan, sourceIds: [randomUUID()] };
    await expect(makeRunSheet(engineer, id, other)).rejects.toMatchObject({ status: 404 });
    await clearRunSheet(engineer, id);
    await makeRunSheet(engineer, id, { ...plan, programme: [], days: 2 });
    const { lines } = await runSheetOf(engineer, id);
    expect(lines.filter(({ day }) => day === 2)[0]).toMatchObject({ chainName: 'Kern 40' });
  });

  it('refuses numbers that cannot be', () => {
    expect(runSheetPlan.safeParse({ ...plan, takes: 0 }).success).toBe(false);
    expect(runSheetPlan.safeParse({ ...plan, days: 99 }).success).toBe(false);
    const entry = { lineId: id, done: true, distanceM: -1, gainDb: 1e9, remark: '' };
    expect(logEntries.safeParse({ entries: [{ ...entry, writtenAt: 'yesterday' }] }).success).toBe(
      false,
    );
  });
});

describe('a sheet for chains side by side', () => {
  const sheet = async (change: Partial<RunSheetPlan> = {}) => {
    await clearRunSheet(engineer, id);
    await makeRunSheet(engineer, id, { ...plan, order: 'at once', ...change });
    return runSheetOf(engineer, id);
  };

  it('has one time for each performance, and chain by chain what needs a chain of its own', async () => {
    const programme: RunSheetPlan['programme'] = [
      { programme: 'room', details: [] },
      { programme: 'off-axis', details: ['45'] },
      { programme: 'plosives', details: [] },
    ];
    const { lines } = await sheet({ programme });
    const groups = runGroups(lines).map((group) => {
      const [{ programme: step, detail, takeNumber }] = group as [RunLine];
      return `${step} ${detail}${takeNumber}: ${group.map(({ chainName }) => chainName).join(', ')}`;
    });
    expect(groups).toEqual([
      'performance 1: Kern 40, Ostra R1',
      'room 1: Kern 40, Ostra R1',
      'off-axis 451: Kern 40',
      'off-axis 451: Ostra R1',
      // The ribbon takes no plosives.
      'plosives 1: Kern 40',
      'performance 2: Kern 40, Ostra R1',
    ]);
    // Two to plug each chain in; four, one, one each of two, one, four.
    expect(lines.reduce((sum, { minutes }) => sum + minutes, 0)).toBe(4 + 4 + 1 + 2 + 1 + 4);
  });

  it('says what would be needed twice, and keeps the programme for the next sheet and a copy', async () => {
    const programme: RunSheetPlan['programme'] = [{ programme: 'own', details: ['key clicks'] }];
    const { shared } = await sheet({ programme });
    expect(shared).toEqual([{ name: 'Linie 2', chains: 2 }]);
    await clearRunSheet(engineer, id);
    expect((await runSheetOf(engineer, id)).programme).toEqual(programme);
    const copy = await copyOf(engineer, id, NOON);
    expect((await runSheetOf(engineer, copy)).programme).toEqual(programme);
  });

  it('spreads performances over days', async () => {
    const { lines } = await sheet({ programme: [], takes: 4, days: 2 });
    expect(runGroups(lines).map(([line]) => [line!.takeNumber, line!.day])).toEqual([
      [1, 1],
      [2, 1],
      [3, 2],
      [4, 2],
    ]);
  });

  it('never runs lines of a rotated sheet together, though they are of one number', async () => {
    await clearRunSheet(engineer, id);
    await makeRunSheet(engineer, id, { ...plan, programme: [] });
    const { lines } = await runSheetOf(engineer, id);
    expect(runGroups(lines).map(({ length }) => length)).toEqual([1, 1, 1, 1]);
  });

  it('refuses steps that cannot be recorded as named', () => {
    const of = (programme: unknown) => runSheetPlan.safeParse({ ...plan, programme });
    expect(of([{ programme: 'own', details: [] }]).error?.issues[0]?.message).toContain('Say for');
    const room = { programme: 'room', details: [] };
    expect(of([room, room]).error?.issues[0]?.message).toContain('stands twice');
    expect(of([{ programme: 'own', details: ['x'.repeat(90)] }]).success).toBe(false);
    expect(of([{ programme: 'nothing', details: [] }]).success).toBe(false);
  });
});

describe('simulated bench', () => {
  const bench: BenchPlan = {
    chainIds: [],
    instrument: 'clarinet',
    sourceId: '',
    capture: 'one after another',
    takes: 2,
    programme: plan.programme,
    room: 'treated',
    accidents: true,
    seed: 3,
  };

  it('records what was ordered, marked simulated, once, and never plosives at a ribbon', async () => {
    const { id: sourceId } = await one(sourcesSeen(engineer, id));
    await orderBench(engineer, id, { ...bench, sourceId, chainIds: chains }, NOON);
    const { id: orderId } = await one(db().rows<{ id: string }>('SELECT id FROM bench_order'));
    const order = await benchJobs(orderId);
    expect(order?.jobs.map(({ fileName }) => fileName)).toEqual([
      'Kern40_room.wav',
      'Kern40_plosives.wav',
      'OstraR1_room.wav',
    ]);
    const recorded = [];
    for (const job of order?.jobs ?? []) {
      const audioId = await transaction((tx) => putAudio(tx, recordOnBench(job), NOON));
      recorded.push({ job, audioId });
    }
    await keepBenchTakes(orderId, id, recorded, NOON);
    // A worker that was killed after this runs the job again.
    await keepBenchTakes(orderId, id, recorded, NOON);
    expect(await benchJobs(orderId)).toBeNull();
    const takes = await takesOf(engineer, id);
    expect(takes.map(({ programme, simulated }) => [programme, simulated]).sort()).toEqual([
      ['plosives', true],
      ['room', true],
      ['room', true],
    ]);
  });

  it('reads an order that was written before steps had details', () => {
    const older = { ...bench, chainIds: [id], sourceId: id, programme: ['performance', 'room'] };
    expect(storedBenchPlan.parse(older).programme).toEqual([
      { programme: 'performance', details: [] },
      { programme: 'room', details: [] },
    ]);
    expect(storedBenchPlan.safeParse({ ...older, programme: ['odd'] }).success).toBe(false);
  });

  it('says which chain it cannot record', async () => {
    const bare = await addChain(engineer, id, { name: 'Words', items: 'x', priceCents: null });
    const { id: sourceId } = await one(sourcesSeen(engineer, id));
    await expect(
      orderBench(engineer, id, { ...bench, sourceId, chainIds: [bare] }, NOON),
    ).rejects.toThrow('cannot record Words: it has no microphone');
    const nobody = { ...bench, sourceId: randomUUID(), chainIds: chains };
    await expect(orderBench(engineer, id, nobody, NOON)).rejects.toMatchObject({ status: 404 });
    await expect(
      orderBench(stranger, id, { ...bench, chainIds: chains }, NOON),
    ).rejects.toMatchObject({ status: 404 });
  });
});
