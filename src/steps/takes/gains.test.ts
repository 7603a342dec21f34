import { MICROPHONES } from '@/core/simulation/microphones';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { chainsOf, changeChain } from '@/steps/chains/service';
import { comparisonOf, sourcesOf } from '@/steps/comparisons/service';
import { addGear } from '@/steps/gear/service';
import { bankWithTakes, CHAIN_NAMES } from '@/steps/test/bank';
import { recordedGainsOf } from './gains';
import { takesQuery } from './schema';
import { takesViewOf } from './takes-view';

withTestDatabase();

let engineer: SignedIn;
let comparisonId: string;
let chains: string[];
let sourceId: string;

beforeEach(async () => {
  engineer ??= await testEngineer('Mirela Voss');
  ({ comparisonId, chainIds: chains } = await bankWithTakes(engineer));
  sourceId = (await sourcesOf(db(), comparisonId)).sources[0]!.id;
});

/** A line of the run sheet, with what was written into it at the stand. */
async function line(
  chainId: string,
  gainDb: number | null,
  { done = true, takeNumber = 1, minutesLater = 0, knob = '' } = {},
) {
  await db().rows(
    `INSERT INTO run_line (comparison_id, day, position, chain_id, source_id, programme, detail,
       take_number, minutes, done, gain_db, written_at, knob)
     VALUES ($1, 1, (SELECT count(*) FROM run_line), $2, $3, 'performance', '', $4, 1, $5, $6, $7, $8)`,
    [
      comparisonId,
      chainId,
      sourceId,
      takeNumber,
      done,
      gainDb,
      new Date(NOON.getTime() + minutesLater * 60_000),
      knob,
    ],
  );
}

const view = () => takesViewOf(engineer, comparisonId, takesQuery.parse({ tab: 'measured' }));

it('a gain is that of the take’s own line, else the one written last; undone lines say nothing', async () => {
  const [a, b, c] = chains as [string, string, string];
  await line(a, 40);
  await line(a, 44, { takeNumber: 2, minutesLater: 5 });
  await line(b, 50, { done: false });
  await line(c, null);
  const all = await chainsOf(engineer, comparisonId);
  const of = { sourceId, programme: 'performance', detail: '' } as const;
  const recorded = await recordedGainsOf(db(), comparisonId, of, all);
  const gainOf = (id: string, number: number) => recorded(id, number).gainDb;
  expect([gainOf(a, 1), gainOf(a, 2), gainOf(a, 3)]).toEqual([40, 44, 44]);
  expect([gainOf(b, 1), gainOf(c, 1), gainOf('nobody', 1)]).toEqual([null, null, null]);
  const step = await recordedGainsOf(db(), comparisonId, { ...of, programme: 'tone' }, all);
  expect(step(a, 1)).toEqual({ gainDb: null, knob: '' });
});

it('measures what the simulated microphones are: sensitivity against the reference, at one gain', async () => {
  expect((await view()).gain).toBeNull();
  // As the bench of these tests recorded them.
  for (const [i, gain] of [36, 38, 58].entries()) await line(chains[i]!, gain);
  const { gain } = await view();
  expect(gain?.of).toBe('Clarinet');
  expect(gain?.rows.map(({ chain }) => chain)).toEqual(CHAIN_NAMES);
  for (const [i, { sensitivityDb }] of gain!.rows.entries()) {
    const farther = 20 * Math.log10((0.3 + 0.02 * i) / 0.3);
    const said = MICROPHONES[i]!.sensitivityDb - MICROPHONES[0]!.sensitivityDb - farther;
    // Room, response and load do the rest.
    expect(Math.abs(sensitivityDb! - said)).toBeLessThan(3);
  }
  // Chains in words have no data sheet.
  expect(gain!.rows.every(({ predictedDb, offDb }) => predictedDb === null && offDb === null)).toBe(
    true,
  );
});

it('says nothing where chains were recorded one after another, without a test sound', async () => {
  for (const [i, gain] of [36, 38, 58].entries()) await line(chains[i]!, gain);
  expect((await view()).gain).not.toBeNull();
  await comparisonOf(engineer, comparisonId);
  await db().rows("UPDATE source SET capture = 'one after another' WHERE id = $1", [sourceId]);
  expect((await view()).gain).toBeNull();
});

it('of a knob it knows the gain where a data sheet says it, else only how far it has to be turned', async () => {
  const [a, b, c] = chains as [string, string, string];
  const preamp = await addGear(
    engineer,
    {
      name: 'Rinde 1',
      kind: 'preamp',
      maker: '',
      specs: { knob: [{ position: 'III', gainDb: 38 }] },
      priceCents: null,
      ownership: 'owned',
      condition: '',
      notes: '',
      scores: {},
      accessoryIds: [],
    },
    NOON,
  );
  const second = (await chainsOf(engineer, comparisonId)).find(({ id }) => id === b)!;
  const { version, ...draft } = second;
  await changeChain(engineer, comparisonId, b, {
    ...draft,
    version,
    gear: [{ gearId: preamp, settings: {} }],
  });
  await line(a, 36);
  await line(b, null, { knob: 'iii' });
  await line(c, null, { knob: 'half past two' });
  const rows = (await view()).gain!.rows;
  expect(rows.map(({ recordedGainDb, knob }) => [recordedGainDb, knob])).toEqual([
    [36, ''],
    [38, ''],
    [null, 'half past two'],
  ]);
  expect(rows[2]).toMatchObject({ neededDb: null, sensitivityDb: null });
  expect(Number.isFinite(rows[2]!.turnUpDb)).toBe(true);
});
