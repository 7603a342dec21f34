import { readTogether } from '@/core/statistics/reading/together';
import { parseResultsFile } from '@/core/statistics/results-file';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { answeredSitting } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES, openTestSitting } from '@/steps/test/bank';
import { readSittingsTogether } from '@/worker/tasks';
import { togetherOrder } from './schema';
import { chooseTogether, togetherCsv, togetherOf } from './together';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
let sittings: string[];
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
  const [a, b, c] = bank.chainIds as [string, string, string];
  const panel = (change: object, ...aliases: string[]) =>
    answeredSitting(engineer, bank.comparisonId, {
      aliases,
      // Everybody likes the last best; every third listener takes the others the other way round.
      liking: (listener) => (listener % 3 === 2 ? [a, c, b] : [c, b, a]),
      change: { title: 'Clarinet, bridge', ...change },
      parts: [],
    });
  sittings = [
    await panel({ seats: 6 }, 'Ada', 'Ben', 'Cleo', 'Dag', 'Ellen', 'Finn'),
    await panel({ seats: 6, title: 'In spring' }, 'ADA', 'Ben', 'Cleo', 'Gro', 'Hauk', 'Ida'),
  ];
});

const order = (change: object = {}) =>
  togetherOrder.parse({
    sittingIds: sittings,
    referenceChainId: bank.chainIds[1],
    reason: 'The same clips, half a year apart',
    ...change,
  });
const choose = (change: object = {}) =>
  chooseTogether(engineer, bank.comparisonId, order(change), NOON, readSittingsTogether);

it('offers what is closed, and reads nothing before somebody chose', async () => {
  const view = await togetherOf(engineer, bank.comparisonId, null);
  expect(view.joint).toBeNull();
  expect(view.sittings.map(({ title }) => title).sort()).toEqual(['Clarinet, bridge', 'In spring']);
  for (const { chainIds } of view.sittings) {
    expect(new Set(chainIds)).toEqual(new Set(bank.chainIds));
  }
});

it('keeps which sittings count, against what, who chose them, and why', async () => {
  const id = await choose();
  const { joint, readings } = await togetherOf(engineer, bank.comparisonId, id);
  expect(readings).toHaveLength(1);
  expect(joint).toMatchObject({
    id,
    by: 'Mirela Voss',
    at: NOON,
    reason: 'The same clips, half a year apart',
    reference: CHAIN_NAMES[1],
    // Ada, Ben and Cleo came twice.
    listeners: 9,
  });
  expect(joint?.sittings.toSorted()).toEqual(['Clarinet, bridge', 'In spring']);
  expect(joint?.read.each.map(({ sitting }) => sitting).toSorted()).toEqual([
    'Clarinet, bridge',
    'In spring',
  ]);
  const chains = joint?.read.bridge.pair?.chains ?? [];
  expect(chains.map(({ chain }) => chain).toSorted()).toEqual([CHAIN_NAMES[0], CHAIN_NAMES[2]]);
  // Eight of twelve answers put the last chain over the middle one and that over the first.
  expect(chains.find(({ chain }) => chain === CHAIN_NAMES[2])!.difference).toBeGreaterThan(0);
});

it('gives the answers away, numbered, so that the same reading comes out', async () => {
  const id = await choose({ reason: 'Again' });
  const { joint } = await togetherOf(engineer, bank.comparisonId, id);
  const { body } = await togetherCsv(engineer, bank.comparisonId, id);
  for (const name of ['Ada', 'ADA', 'Ben', 'Hauk']) expect(body).not.toContain(name);
  const { observations } = parseResultsFile(new TextEncoder().encode(body));
  expect(observations).toHaveLength(36);
  const again = readTogether(observations, CHAIN_NAMES[1]!);
  const differences = (read: typeof again) =>
    new Map(read?.bridge.pair?.chains.map(({ chain, difference }) => [chain, difference]));
  for (const [chain, difference] of differences(joint!.read)) {
    expect(differences(again).get(chain)).toBeCloseTo(difference, 6);
  }
});

it('reads anew what an older version of the program read', async () => {
  const id = await choose({ reason: 'Once more' });
  await db().rows(`UPDATE joint_reading SET read = '{"version": 0}' WHERE id = $1`, [id]);
  const { joint } = await togetherOf(engineer, bank.comparisonId, id, readSittingsTogether);
  expect(joint).toMatchObject({ listeners: 9 });
});

describe('refuses', () => {
  const refused = (change: object) => expect(choose(change)).rejects;

  it('one sitting, the same twice, and no reason', () => {
    for (const change of [
      { sittingIds: [sittings[0]] },
      { sittingIds: [sittings[0], sittings[0]] },
      { reason: ' ' },
    ]) {
      expect(togetherOrder.safeParse({ ...order(), ...change }).success).toBe(false);
    }
  });

  it('what is open, and a chain that not all heard', async () => {
    const { sittingId } = await openTestSitting(engineer, bank.comparisonId);
    await refused({ sittingIds: [sittings[0], sittingId] }).toMatchObject({ status: 409 });
    const stray = '00000000-0000-4000-8000-000000000000';
    await refused({ referenceChainId: stray }).toMatchObject({ status: 422 });
  });

  it('a sitting that nobody answered: nothing links it', async () => {
    const empty = await answeredSitting(engineer, bank.comparisonId, {
      aliases: [],
      liking: bank.chainIds,
      change: { title: 'Nobody came', seats: 1 },
    });
    await refused({ sittingIds: [sittings[0], empty] }).toMatchObject({
      status: 422,
      message: expect.stringContaining('no chain in common') as string,
    });
  });

  it('a reference that one of them never asked about', async () => {
    const [a, b, c] = bank.chainIds as [string, string, string];
    const two = await answeredSitting(engineer, bank.comparisonId, {
      aliases: ['Jo', 'Kim'],
      liking: bank.chainIds,
      change: { title: 'Two chains' },
      parts: [{ pair: [a, b], trials: 2 }],
    });
    const view = await togetherOf(engineer, bank.comparisonId, null, readSittingsTogether);
    expect(new Set(view.sittings.find(({ id }) => id === two)?.chainIds)).toEqual(new Set([a, b]));
    await refused({ sittingIds: [sittings[0], two], referenceChainId: c }).toMatchObject({
      status: 422,
      message: expect.stringContaining('choose one that all of them heard') as string,
    });
  });

  it('whoever is not of the studio', async () => {
    const stranger = await testEngineer('Stranger');
    await expect(
      chooseTogether(stranger, bank.comparisonId, order(), NOON, readSittingsTogether),
    ).rejects.toMatchObject({ status: 404 });
    await expect(togetherOf(stranger, bank.comparisonId, null)).rejects.toMatchObject({
      status: 404,
    });
  });
});
