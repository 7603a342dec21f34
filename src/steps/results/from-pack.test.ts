import { sha256Hex } from '@/core/design/seal';
import { parseResultsFile } from '@/core/statistics/results-file';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { makePack, openPackKey, packOf } from '@/steps/match/pack';
import { importPackAnswers } from '@/steps/sitting/from-pack';
import { closeSitting } from '@/steps/sitting/service';
import { analysed } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES, openTestSitting } from '@/steps/test/bank';
import { hashPackClips } from '@/worker/tasks';
import { answersCsv, keyFile, resultsOf } from './service';
import { SHEETS_NOTE } from './given-as';

withTestDatabase();

const LATER = new Date(NOON.getTime() + 3_600_000);
const HEADER = 'listener,trial,first,second,choice,remark';

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
let packId: string;
/** Code words in the order of the chains. */
let words: string[];
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
  packId = await makePack(
    engineer,
    bank.comparisonId,
    bank.clipSetId,
    { question: 'Which suits better?' },
    NOON,
    hashPackClips,
  );
  const pack = await packOf(engineer, bank.comparisonId, packId);
  words = bank.chainIds.map((id) => pack.words[id]!);
});

/** Three pairs of a listener who likes the last chain best and the second least. */
const rowsOf = (listener: string, remark = '') => {
  const [a, b, c] = words as [string, string, string];
  return [
    [listener, 1, a, b, a, remark],
    [listener, 2, b, c, c.toLowerCase(), ''],
    [listener, 3, c, a, c, ''],
  ].map((row) => row.join(','));
};
const sheetOf = (name: string, ...rows: string[]) => ({
  name,
  text: [HEADER, ...rows, ''].join('\r\n'),
});
const send = (sheets: { name: string; text: string }[], apply: boolean, title = 'By post') =>
  importPackAnswers(engineer, bank.comparisonId, packId, { sheets, title, apply }, LATER);
const counted = async () =>
  (await db().rows<{ n: number }>('SELECT count(*)::int AS n FROM answer'))[0]!.n;

const PANEL = ['Ada', 'Ben', 'Cleo', 'Dag', 'Ellen', 'Finn', 'Gro', 'Hauk'];

it('looks at sheets without keeping anything, and tells nothing of the key', async () => {
  const sheets = [
    sheetOf('one.csv', ...rowsOf('Ada'), `Ada,4,${words[0]},Moss,Moss,`),
    sheetOf('two.csv', ...rowsOf('ADA'), `Ben,1,${words[0]},${words[1]},,`),
  ];
  const { preview, sittingId } = await send(sheets, false);
  expect(sittingId).toBeNull();
  expect(preview).toEqual({
    listeners: [{ name: 'Ada', answers: 3 }],
    skipped: { blank: 0, missing: 1, duplicate: 3 },
    faults: [{ sheet: 'one.csv', message: 'row 5: no clip of this pack is called "Moss"' }],
    before: [],
  });
  const said = JSON.stringify(preview);
  for (const secret of [...CHAIN_NAMES, ...bank.chainIds]) expect(said).not.toContain(secret);
  await expect(send(sheets, true)).rejects.toMatchObject({
    status: 422,
    message: expect.stringContaining('nothing was imported') as string,
  });
  await expect(send([sheetOf('empty.csv')], true)).rejects.toThrow('No row of these sheets');
  expect(await counted()).toBe(0);
  expect(await packOf(engineer, bank.comparisonId, packId)).toMatchObject({ openedAt: null });
});

it('refuses what a sitting cannot hold, each by its row', async () => {
  const long = 'x'.repeat(201);
  const { preview } = await send(
    [
      sheetOf('long.csv', ...rowsOf('y'.repeat(41)), ...rowsOf('Ada', long)),
      sheetOf('many.csv', ...Array.from({ length: 2001 }, (_, i) => rowsOf(`L${i}`)[0]!)),
    ],
    false,
  );
  expect(preview.faults).toEqual([
    { sheet: 'long.csv', message: 'row 2: the name has 41 signs; 40 is the most' },
    { sheet: 'long.csv', message: 'row 5: the remark has 201 signs; 200 is the most' },
    {
      sheet: 'many.csv',
      message: '2003 listeners are in these sheets; a sitting holds 2000',
    },
  ]);
});

it('waits for a sitting over the same clips: importing ends with the names', async () => {
  const { sittingId } = await openTestSitting(engineer, bank.comparisonId);
  await expect(send([sheetOf('one.csv', ...rowsOf('Ada'))], false)).rejects.toMatchObject({
    status: 409,
  });
  await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
});

it('makes a closed sitting that is read like any other, under the seal of the pack', async () => {
  const sheets = PANEL.map((name) => sheetOf(`${name}.csv`, ...rowsOf(name, `said by ${name}`)));
  const { sittingId } = await send(sheets, true);
  await analysed(sittingId!);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  const { seal } = await packOf(engineer, bank.comparisonId, packId);
  expect(result).toMatchObject({
    title: 'By post',
    listeners: 8,
    answers: 24,
    seal,
    sealHolds: true,
    fromPack: { madeAt: NOON, keyOutAt: null },
    heardAs: [SHEETS_NOTE],
  });
  const wins = result?.parts?.[0]?.analysis.results.pair?.pairs.map(
    ({ a, b, aWins, bWins, ties }) =>
      aWins > bWins ? [a, b, aWins, bWins, ties] : [b, a, bWins, aWins, ties],
  );
  const [first, second, third] = CHAIN_NAMES as [string, string, string];
  // The last chain won both of its pairs, the first its pair with the second; eight times each.
  expect(new Set(wins?.map((row) => row.join()))).toEqual(
    new Set([
      [first, second, 8, 0, 0].join(),
      [third, second, 8, 0, 0].join(),
      [third, first, 8, 0, 0].join(),
    ]),
  );
  expect(result?.remarks.map(({ text }) => text)).toContain('said by Ada');
  const { body: key } = await keyFile(engineer, bank.comparisonId, sittingId!);
  expect(await sha256Hex(key)).toBe(seal);
  const { body } = await answersCsv(engineer, bank.comparisonId, sittingId!);
  const read = parseResultsFile(new TextEncoder().encode(body)).observations;
  expect(
    read
      .filter(({ listener }) => listener === 'Dag')
      .map((one) => 'response' in one && one.response),
  ).toEqual(['a', 'b', 'a']);
});

it('says when the key was out before the answers came in, and that a pack was imported before', async () => {
  await openPackKey(engineer, bank.comparisonId, packId, LATER);
  const again = new Date(LATER.getTime() + 60_000);
  const order = { sheets: [sheetOf('late.csv', ...rowsOf('Ida'))], title: 'Late', apply: true };
  const { preview, sittingId } = await importPackAnswers(
    engineer,
    bank.comparisonId,
    packId,
    order,
    again,
  );
  expect(preview.before).toEqual([{ title: 'By post', at: LATER.toISOString() }]);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  expect(result?.fromPack).toEqual({ madeAt: NOON, keyOutAt: LATER });
});

it('is for those of the studio alone', async () => {
  const stranger = await testEngineer('Stranger');
  await expect(
    importPackAnswers(
      stranger,
      bank.comparisonId,
      packId,
      { sheets: [sheetOf('one.csv', ...rowsOf('Ada'))], title: 'Mine', apply: true },
      LATER,
    ),
  ).rejects.toMatchObject({ status: 404 });
});
