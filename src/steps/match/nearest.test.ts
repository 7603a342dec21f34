import { sine } from '@/core/test/signals';
import { encodeWav } from '@/core/wav/write';
import { db } from '@/platform/database';
import { one } from '@/platform/one';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { addChain } from '@/steps/chains/service';
import { createComparison } from '@/steps/comparisons/service';
import { listPassages } from '@/steps/comparisons/store';
import {
  alignmentOrder,
  changeTakes,
  keepAlignments,
  pickOne,
  takesOf,
} from '@/steps/takes/service';
import { deliverTake, RATE } from '@/steps/test/bank';
import { relateTakes } from '@/worker/tasks';
import { takesOfPassage } from './store';

withTestDatabase();

let engineer: SignedIn;
let id: string;
const takeIds = new Map<string, string>();

/** Somebody plays for so long, so loud, with a second of silence before and after. */
function played(seconds: number, gain: number, hz: number): Uint8Array {
  const tone = sine(hz, RATE, seconds, gain);
  const whole = new Float64Array(tone.length + 2 * RATE);
  whole.set(tone, RATE);
  return encodeWav([whole], RATE, 24);
}

async function related(): Promise<void> {
  const order = await alignmentOrder(id);
  if (!order) throw new Error('something still waits');
  await keepAlignments(id, await relateTakes({ order }));
}

/** Names of the takes that clips would be made of. */
async function used(): Promise<string[]> {
  const { id: passageId } = await one(listPassages(db(), id));
  const { fitting } = await takesOfPassage(db(), id, passageId, []);
  const nameOf = new Map([...takeIds].map(([name, takeId]) => [takeId, name]));
  return fitting.map(({ takeId }) => nameOf.get(takeId) ?? '').sort();
}

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  const question = { title: 'By turns', question: '', sourceName: 'Cello', passageName: 'bridge' };
  id = await createComparison(engineer, question, NOON);
  for (const name of ['Alder', 'Birch']) {
    await addChain(engineer, id, { name, items: '', priceCents: null });
  }
  await db().rows("UPDATE source SET capture = 'one after another' WHERE comparison_id = $1", [id]);
  const takes: [string, Uint8Array][] = [
    ['Alder_1', played(5, 0.1, 300)],
    ['Alder_2', played(6, 0.2, 310)],
    ['Birch_1', played(7, 0.4, 320)],
    ['Birch_2', played(6.02, 0.21, 330)],
  ];
  for (const [i, [name, bytes]] of takes.entries()) {
    const takeId = await deliverTake(id, `${name}.wav`, bytes);
    takeIds.set(name, takeId);
    const at = new Date(NOON.getTime() + 1000 * i);
    await db().rows('UPDATE take SET created_at = $2 WHERE id = $1', [takeId, at]);
  }
});

it('takes the oldest until all are set against each other', async () => {
  expect(await used()).toEqual(['Alder_1', 'Birch_1']);
});

it('then those that are nearest in tempo and loudness', async () => {
  await related();
  expect(await used()).toEqual(['Alder_2', 'Birch_2']);
  const takes = await takesOf(engineer, id);
  expect(
    takes
      .filter(({ nearest }) => nearest)
      .map(({ fileName }) => fileName)
      .sort(),
  ).toEqual(['Alder_2.wav', 'Birch_2.wav']);
});

/** How each chain's take would be laid in time, and each named take. */
async function laid(named: string[] = []): Promise<string[][]> {
  const { id: passageId } = await one(listPassages(db(), id));
  const found = await takesOfPassage(db(), id, passageId, named);
  return [found.fitting, found.named].map((takes) => takes.map(({ alignment }) => alignment));
}

it('lays takes by their onsets that hold another waveform than the reference, and only those', async () => {
  // Alder's second was played another time than its first, which sets the time; so was all of Birch.
  expect(await laid()).toEqual([['onset', 'onset'], []]);
  await db().rows("UPDATE source SET capture = 'at once' WHERE comparison_id = $1", [id]);
  expect(await laid()).toEqual([['performance', 'performance'], []]);
  // A chain records a time of playing once: another take of it was played another time.
  const other = takeIds.get('Birch_2')!;
  const used = takeIds.get('Birch_1')!;
  expect(await laid([used, other])).toEqual([
    ['performance', 'performance'],
    ['performance', 'onset'],
  ]);
  await db().rows("UPDATE source SET capture = 'one after another' WHERE comparison_id = $1", [id]);
});

it('what somebody picks counts before, and stays when they are set against each other anew', async () => {
  await pickOne(engineer, id, takeIds.get('Alder_1')!);
  await related();
  expect(await used()).toEqual(['Alder_1', 'Birch_2']);
  await db().rows('UPDATE take SET picked = false');
});

it('a take that moves to another chain is no longer among them', async () => {
  const takeId = takeIds.get('Birch_2')!;
  await changeTakes(engineer, id, { takeIds: [takeId], chainId: null }, NOON);
  expect(await used()).toEqual(['Alder_2', 'Birch_1']);
  await related();
  // Around 5 s and 6 s: the longer, louder one of Alder is nearer to what Birch has left.
  expect(await used()).toEqual(['Alder_2', 'Birch_1']);
});

it('asks nothing of the kind where all were recorded at once', async () => {
  await db().rows("UPDATE source SET capture = 'at once' WHERE comparison_id = $1", [id]);
  expect(await used()).toEqual(['Alder_1', 'Birch_1']);
});

it('then takes the performance that most chains recorded, whichever take was written first', async () => {
  const chains = await db().rows<{ id: string; name: string }>(
    'SELECT id, name FROM chain WHERE comparison_id = $1 ORDER BY name',
    [id],
  );
  const chainId = chains.find(({ name }) => name === 'Alder')!.id;
  const [first, second, third] = ['Alder_1', 'Alder_2', 'Birch_2'].map((name) =>
    takeIds.get(name)!,
  );
  const birch = chains.find(({ name }) => name === 'Birch')!.id;
  await changeTakes(engineer, id, { takeIds: [third!], chainId: birch }, NOON);
  // Alder's first is one that nobody else recorded; so both go to the second.
  await changeTakes(engineer, id, { takeIds: [first!], chainId, performance: 7 }, NOON);
  await changeTakes(engineer, id, { takeIds: [second!, third!], performance: 2 }, NOON);
  expect(await used()).toEqual(['Alder_2', 'Birch_2']);
});
