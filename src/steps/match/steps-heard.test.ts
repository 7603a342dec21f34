import { sine, xorshiftNoise } from '@/core/test/signals';
import { MILD_PROCESSING } from '@/core/processing/settings';
import { decodeWav } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';
import { db } from '@/platform/database';
import { one } from '@/platform/one';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { addChain, chainsOf, changeChain, copyOf } from '@/steps/chains/service';
import { removeChain } from '@/steps/takes/service';
import { addPassage, changePassage, sourcesOf } from '@/steps/comparisons/service';
import { listPassages } from '@/steps/comparisons/store';
import type { GearDraft } from '@/steps/gear/schema';
import { addGear } from '@/steps/gear/service';
import {
  bankWithTakes,
  CHAIN_NAMES,
  deliverTake,
  RATE,
  rendered,
  takeBytes,
} from '@/steps/test/bank';
import { matchAllOrder } from './schema';
import {
  keepRenderedSet,
  matchOf,
  renderOrder,
  startAllMatches,
  startMatch,
  takesForMatch,
} from './service';
import { listClipSets } from './store';

withTestDatabase();

let engineer: SignedIn;
let comparisonId: string;
let chains: string[];
let sourceId: string;
let passageId: string;

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  ({ comparisonId, chainIds: chains } = await bankWithTakes(engineer));
  sourceId = (await sourcesOf(db(), comparisonId)).sources[0]!.id;
  for (const [i, name] of CHAIN_NAMES.entries()) {
    const { channels, header } = await decodeWav(takeBytes(i));
    const half = encodeWav([channels[0]!.map((x) => 0.5 * x)], header.format.sampleRateHz, 24);
    await deliverTake(comparisonId, `${name}_off-axis_90.wav`, half);
  }
  passageId = await addPassage(engineer, comparisonId, {
    name: 'from the side',
    programme: 'off-axis',
    detail: '90',
  });
  await changePassage(engineer, comparisonId, passageId, { fromS: 1, toS: 4 });
});

/** A line of the run sheet that is done, with the gain that was written. */
async function logged(chainId: string, programme: string, detail: string, gainDb: number | null) {
  await db().rows(
    `INSERT INTO run_line (comparison_id, day, position, chain_id, source_id, programme, detail,
       take_number, minutes, done, gain_db, written_at)
     VALUES ($1, 1, (SELECT count(*) FROM run_line), $2, $3, $4, $5, 1, 1, true, $6, $7)`,
    [comparisonId, chainId, sourceId, programme, detail, gainDb, NOON],
  );
}

const order = (change: object) => ({
  passageId,
  method: 'gain' as const,
  referenceChainId: chains[0]!,
  contexts: [{ kind: 'raw' as const }],
  offsets: {},
  leftOut: [],
  ...change,
});

async function made(change: object = {}) {
  const asked = order(change);
  const setId = await one(startMatch(engineer, comparisonId, asked, NOON));
  const todo = await renderOrder(setId);
  const set = await rendered(todo!);
  if ('refused' in set) {
    await db().rows("UPDATE clip_set SET state = 'failed' WHERE id = $1", [setId]);
    return set.refused;
  }
  await keepRenderedSet(todo!, set, NOON);
  const looked = { passageId: asked.passageId, clipSetId: setId };
  return (await matchOf(engineer, comparisonId, looked)).clips;
}

it('a passage of a step is cut from the takes of that step alone', async () => {
  const heard = await takesForMatch(db(), comparisonId, passageId);
  const { takes } = await matchOf(engineer, comparisonId);
  for (const { takeId, chainId } of heard) {
    const take = takes.find(({ id }) => id === takeId)!;
    expect([take.chainId, take.programme, take.detail]).toEqual([chainId, 'off-axis', '90']);
  }
  expect(heard.map(({ chainId }) => chainId)).toEqual(chains);
  const [first] = await listPassages(db(), comparisonId);
  // A performance is the music, whatever a name says besides.
  await db().rows("UPDATE take SET detail = 'second day' WHERE chain_id = $1 AND programme = $2", [
    chains[1]!,
    'performance',
  ]);
  const performance = await takesForMatch(db(), comparisonId, first!.id);
  expect(performance.map(({ chainId }) => chainId)).toEqual(chains);
  expect(performance.map(({ takeId }) => takeId)).not.toContain(heard[0]!.takeId);
});

it('at the same gain asks for every gain, then takes it from the sheet, else from the plan', async () => {
  await logged(chains[0]!, 'off-axis', '90', 40);
  // Of another step, or never written: neither counts.
  await logged(chains[1]!, 'performance', '', 55);
  await logged(chains[1]!, 'off-axis', '90', null);
  await expect(made()).rejects.toThrow('recorded: Halde T2, Ostra R1. Write it on the run sheet');
  await logged(chains[1]!, 'off-axis', '90', 46);
  const linie: GearDraft = {
    name: 'Linie 2',
    kind: 'preamp',
    maker: '',
    specs: { maxGainDb: 60 },
    priceCents: null,
    ownership: 'owned',
    condition: '',
    notes: '',
    scores: {},
    accessoryIds: [],
  };
  const preamp = await addGear(engineer, linie, NOON);
  const third = (await chainsOf(engineer, comparisonId)).find(({ id }) => id === chains[2])!;
  await changeChain(engineer, comparisonId, third.id, {
    ...third,
    gear: [{ gearId: preamp, settings: { gainDb: 58 } }],
  });
  const { alignments } = await matchOf(engineer, comparisonId, { passageId });
  expect(alignments.map(({ recordedGainDb }) => recordedGainDb)).toEqual([40, 46, 58]);
  const clips = await made();
  if (typeof clips === 'string') throw new Error(clips);
  const [a, b, c] = clips.map(({ gainDb }) => gainDb) as [number, number, number];
  expect(a - b).toBeCloseTo(6, 6);
  expect(a - c).toBeCloseTo(18, 6);
  const loudest = Math.max(...clips.map(({ afterLufs }) => afterLufs!));
  expect(loudest).toBeLessThanOrEqual(-19.99);
});

it('by a test sound in takes of their own, as if it had been recorded at the gain of the music', async () => {
  const by = { method: 'test' as const };
  await expect(made(by)).rejects.toThrow('level of these: Kern 40, Halde T2, Ostra R1. Record');
  // In the second it is half as loud, in the third a quarter, with silence around it.
  for (const [i, name] of CHAIN_NAMES.entries()) {
    const tone = sine(1000, RATE, 4, 0.4 / 2 ** i);
    const whole = new Float64Array(tone.length + 2 * i * RATE);
    whole.set(tone, i * RATE);
    await deliverTake(comparisonId, `${name}_test tone.wav`, encodeWav([whole], RATE, 24));
  }
  const gains = async () => {
    const clips = await made(by);
    if (typeof clips === 'string') throw new Error(clips);
    expect(Math.max(...clips.map(({ residualLu }) => Math.abs(residualLu)))).toBeLessThan(0.05);
    const [a, b, c] = clips.map(({ gainDb }) => gainDb) as [number, number, number];
    return [b - a, c - a];
  };
  // The third chain's gain of 58 dB is that of all its takes; the others' are written for the step alone.
  const [second, third] = await gains();
  expect(second).toBeCloseTo(20 * Math.log10(2), 2);
  expect(third).toBeCloseTo(20 * Math.log10(4), 2);
  // The second recorded its test sound at 6 dB less gain than the step: that is why it came quieter.
  await logged(chains[1]!, 'tone', '', 40);
  const [now] = await gains();
  expect(now).toBeCloseTo(20 * Math.log10(2) - 6, 2);
  // A knob that was turned in between, by nobody knows how much, is not taken for the same gain.
  const toneLine = (gainDb: number | null, knob: string) =>
    db().rows("UPDATE run_line SET gain_db = $1, knob = $2 WHERE programme = 'tone'", [
      gainDb,
      knob,
    ]);
  await toneLine(null, '3');
  await expect(made(by)).rejects.toThrow('knob stood elsewhere for the test sound of these');
  await toneLine(40, '');
  // What goes through more than the test sound did has no level by it.
  const driven = await addChain(engineer, comparisonId, {
    name: 'Kern 40, high-passed',
    items: '',
    priceCents: null,
    shape: {
      kind: 'variant',
      ofChainId: chains[0]!,
      stages: [{ kind: 'high-pass', hz: 80 }],
    },
  });
  await expect(made(by)).rejects.toThrow('level of these: Kern 40, high-passed.');
  await removeChain(engineer, comparisonId, driven, NOON);
});

it('a step and the performance of one chain stand in one set', async () => {
  const heard = await takesForMatch(db(), comparisonId, passageId);
  const [first] = await listPassages(db(), comparisonId);
  const beside = await addChain(engineer, comparisonId, {
    name: 'Kern 40, from the side',
    items: '',
    priceCents: null,
    shape: { kind: 'variant', ofChainId: chains[0]!, takeId: heard[0]!.takeId, stages: [] },
  });
  const both = await takesForMatch(db(), comparisonId, first!.id);
  const ofKern = both.filter(({ chainId }) => chainId === chains[0] || chainId === beside);
  expect(new Set(ofKern.map(({ takeId }) => takeId)).size).toBe(2);
  expect(ofKern.at(-1)?.takeId).toBe(heard[0]!.takeId);
});

it('a copy of the comparison keeps what its passages are cut from', async () => {
  const passages = await listPassages(db(), await copyOf(engineer, comparisonId, NOON));
  expect(passages.map(({ programme, detail }) => [programme, detail])).toEqual([
    ['performance', ''],
    ['off-axis', '90'],
  ]);
});

it('all marked passages are matched in one order; what stands in the way of one is told by its name', async () => {
  const [first] = await listPassages(db(), comparisonId);
  await changePassage(engineer, comparisonId, first!.id, { fromS: 2, toS: 5 });
  await addPassage(engineer, comparisonId, { name: 'not marked', sourceId: null });
  const noise = await addPassage(engineer, comparisonId, { name: 'silence', programme: 'room' });
  await changePassage(engineer, comparisonId, noise, { fromS: 0, toS: 2 });
  const choices = matchAllOrder.parse(
    order({
      method: 'loudness',
      contexts: [{ kind: 'raw' }, { kind: 'alike', settings: MILD_PROCESSING }],
    }),
  );
  const done = await startAllMatches(engineer, comparisonId, choices, NOON);
  expect(done.refused).toEqual([
    { passage: 'Clarinet: silence', reason: 'A match needs at least two chains with a take each.' },
  ]);
  const sets = await listClipSets(db(), comparisonId);
  const made = sets.filter(({ id }) => done.ids.includes(id));
  const of = (id: string) => made.filter((set) => set.passageId === id).map((set) => set.context);
  expect(of(first!.id).sort()).toEqual(['alike', 'raw']);
  expect(of(passageId)).toEqual(['raw']);
  expect(made).toHaveLength(3);
  // Again while these are being made: each says so, and nothing is ordered twice.
  const again = await startAllMatches(engineer, comparisonId, choices, NOON);
  expect(again.ids).toEqual([]);
  expect(again.refused.map(({ reason }) => reason).join(' ')).toContain('being made already');
});

it('takes silent rooms as they stand and as quiet as they are, one after another too', async () => {
  for (const [i, name] of CHAIN_NAMES.entries()) {
    const hiss = xorshiftNoise(20 + i, 2e-5, 6 * RATE);
    await deliverTake(comparisonId, `${name}_room.wav`, encodeWav([hiss], RATE, 24));
    await logged(chains[i]!, 'room', '', 40 + 6 * i);
  }
  const rooms = await addPassage(engineer, comparisonId, {
    name: 'the room',
    programme: 'room',
    detail: '',
  });
  await changePassage(engineer, comparisonId, rooms, { fromS: 1, toS: 5 });
  for (const { alignment, delayMs } of await takesForMatch(db(), comparisonId, rooms)) {
    expect([alignment, delayMs]).toEqual(['hand', 0]);
  }
  const all = await made({ passageId: rooms });
  if (typeof all === 'string') throw new Error(all);
  const clips = all.filter(({ chainId }) => chains.includes(chainId));
  // White noise of 2e-5 lies near -97 LUFS, under the gate at -70.
  expect(clips.map(({ beforeLufs }) => beforeLufs)).toEqual([null, null, null]);
  const [a, b, c] = clips.map(({ gainDb }) => gainDb) as [number, number, number];
  expect([a - b, b - c].map((db) => db.toFixed(6))).toEqual(['6.000000', '6.000000']);
  // Beside music that is as loud as is safe they stay silent, and have no loudness to set a level by.
  expect(clips.map(({ afterLufs }) => afterLufs)).toEqual([null, null, null]);
  expect(Math.max(...all.map(({ afterLufs }) => afterLufs ?? -Infinity))).toBeCloseTo(-20, 1);
});
