import { db } from '@/platform/database';
import { sha256Hex } from '@/core/design/seal';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { answersCsv, broughtFile, keyFile, resultsOf } from '@/steps/results/service';
import { analysed } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES } from '@/steps/test/bank';
import { listPassages } from '@/steps/comparisons/store';
import { importResults } from './from-file';
import { sittingsOf } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
let source: string;
beforeAll(async () => {
  engineer = await testEngineer('Bringer');
  bank = await bankWithClips(engineer);
  source = (await listPassages(db(), bank.comparisonId))[0]!.sourceName;
});

const HEAD = 'listener,source,context,trial,task,chain,chain_b,first,response,replicate,correct';
const [OAK, ASH, ELM] = CHAIN_NAMES as [string, string, string];

/** Six listeners who like the third, then the first; and tell the first two apart in three of four. */
function rows(place = source): string[] {
  const liking = [ELM, OAK, ASH];
  const pairs = [
    [OAK, ASH],
    [OAK, ELM],
    [ASH, ELM],
  ] as const;
  return ['Ada', 'Ben', 'Cyd', 'Dee', 'Eve', 'Fay'].flatMap((listener, l) => [
    ...pairs.map(([a, b], t) => {
      const response = liking.indexOf(a) < liking.indexOf(b) ? 'a' : 'b';
      return `${listener},${place},raw,${t + 1},pair,${a},${b},${(l + t) % 2 ? 'a' : 'b'},${response},1,`;
    }),
    ...[1, 1, 1, 0].map(
      (correct, t) => `${listener},${place},,${t + 4},triangle,${OAK},${ASH},,,${t + 1},${correct}`,
    ),
  ]);
}

const order = (lines: readonly string[], apply = false) => ({
  name: 'panel.csv',
  text: [HEAD, ...lines].join('\n'),
  title: 'Heard at the other studio',
  apply,
});
const asked = (lines: readonly string[], apply = false) =>
  importResults(engineer, bank.comparisonId, order(lines, apply), NOON);

it('looks first, then keeps a closed sitting that is read like any other and marked everywhere', async () => {
  const before = await sittingsOf(engineer, bank.comparisonId);
  const { preview, sittingId: none } = await asked(rows());
  expect(none).toBeNull();
  expect(preview).toMatchObject({ listeners: 6, faults: [], before: [] });
  expect(preview.parts).toMatchObject([
    { task: 'pair', listeners: 6, trials: 18 },
    { task: 'triangle', listeners: 6, trials: 24 },
  ]);
  expect((await sittingsOf(engineer, bank.comparisonId)).sittings).toEqual(before.sittings);

  const { sittingId } = await asked(rows(), true);
  await analysed(sittingId!);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  const sha256 = await sha256Hex(order(rows()).text);
  expect(result).toMatchObject({
    listeners: 6,
    answers: 42,
    sealHolds: true,
    fromPack: null,
    fromFile: { file: 'panel.csv', sha256 },
  });
  expect(result!.heardAs[0]).toMatch(/^The results of another program/);
  const [pairs, triangle] = result!.parts!;
  // Every pair was asked of all six, and they were of one mind.
  expect(
    pairs!.analysis.results.pair!.pairs.map(({ aWins, bWins }) => Math.max(aWins, bWins)),
  ).toEqual([6, 6, 6]);
  expect(triangle!.analysis.results.audibility).toMatchObject([{ n: 24, correct: 18 }]);
  // Nobody said which part was to be judged by itself.
  expect(result!.parts!.some(({ primary }) => primary)).toBe(false);

  const file = await broughtFile(engineer, bank.comparisonId, sittingId!);
  expect(file.body).toBe(order(rows()).text);
  const key = String((await keyFile(engineer, bank.comparisonId, sittingId!)).body);
  expect(await sha256Hex(key)).toBe(result!.seal);
  // What goes out again says what came in.
  const csv = String((await answersCsv(engineer, bank.comparisonId, sittingId!)).body);
  expect(csv.trim().split('\n')).toHaveLength(1 + 42);
  const { sittings } = await sittingsOf(engineer, bank.comparisonId);
  expect(sittings.find(({ id }) => id === sittingId)).toMatchObject({ broughtFile: 'panel.csv' });
  expect((await asked(rows())).preview.before).toEqual(['Heard at the other studio']);
  const log = await db().rows<{ about: string }>(
    `SELECT record::jsonb->>'about' AS about FROM event WHERE action = 'results brought in' ORDER BY n`,
  );
  expect(log.at(-1)!.about).toContain(sha256);
});

it.each<[string, () => string[], RegExp]>([
  [
    'a chain of another name',
    () => [`Ada,${source},raw,1,pair,${OAK},Nobody,a,a,1,`],
    /“Nobody” is no chain/,
  ],
  [
    'a source of another name',
    () => rows('Kazoo').slice(0, 3),
    /Kazoo, raw: there are no matched clips/,
  ],
  [
    'a context without clips',
    () => [`Ada,${source},in the mix,1,pair,${OAK},${ASH},a,a,1,`],
    /no matched clips/,
  ],
  [
    'a pair without an order',
    () => [`Ada,${source},raw,1,pair,${OAK},${ASH},,a,1,`],
    /heard first/,
  ],
  [
    'a name that is too long',
    () => [`${'A'.repeat(41)},${source},raw,1,pair,${OAK},${ASH},a,a,1,`],
    /over 40 signs/,
  ],
  [
    'two names that look alike',
    () => ['Ada', 'ada'].map((who) => `${who},${source},raw,1,pair,${OAK},${ASH},a,a,1,`),
    /look like one listener/,
  ],
  ['a row outside the format', () => [`Ada,${source},raw,1,pair,${OAK},${ASH},c,a,1,`], /row 2/],
  [
    'more trials than one listener can have',
    () =>
      Array.from(
        { length: 201 },
        (_, i) => `Ada,${source},raw,${i},pair,${OAK},${ASH},a,a,${i + 1},`,
      ),
    /201 trials of one listener/,
  ],
])('names the fault and imports nothing: %s', async (_, lines, fault) => {
  const count = async () => (await sittingsOf(engineer, bank.comparisonId)).sittings.length;
  const before = await count();
  const { preview } = await asked(lines());
  expect(preview.faults.join('\n')).toMatch(fault);
  await expect(asked(lines(), true)).rejects.toMatchObject({
    status: 422,
    message: expect.stringMatching(/^Nothing was imported/) as string,
  });
  expect(await count()).toBe(before);
});

it('is of one’s own studio only', async () => {
  const stranger = await testEngineer('Bringer from elsewhere');
  await expect(
    importResults(stranger, bank.comparisonId, order(rows()), NOON),
  ).rejects.toMatchObject({ status: 404 });
});
