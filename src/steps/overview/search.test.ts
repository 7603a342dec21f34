import { db } from '@/platform/database';
import { one } from '@/platform/one';
import { searchQuery, searchWords } from '@/platform/search-words';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { addChain } from '@/steps/chains/service';
import { createComparison, removeComparison } from '@/steps/comparisons/service';
import { addPanelist } from '@/steps/panel/service';
import { answeredSitting } from '@/steps/test/answered';
import { bankWithClips, openTestSitting } from '@/steps/test/bank';
import { insertListener } from '@/steps/sitting/seats';
import { searchBank } from './search';

withTestDatabase();

let engineer: SignedIn;
beforeAll(async () => {
  engineer = await testEngineer('Seeker');
});

const draft = (title: string) => ({
  title,
  question: '',
  sourceName: 'Clarinet',
  passageName: 'tune',
});
const found = async (text: string, who = engineer) =>
  (await searchBank(who, text)).found.map(({ kind, text: said }) => `${kind}: ${said}`);

it.each([
  ['Kern40_Linie2_take1.wav', ['kern', '40', 'linie', '2', 'take', '1', 'wav']],
  ['Ünïcödé  Łódź, Brødre', ['unicode', 'lodz', 'brodre']],
  ['Halde T2 › Tarn 1', ['halde', 't', '2', 'tarn', '1']],
  ['Жук 12μm', ['жук', '12', 'μm']],
  ['' + "'); DROP TABLE take; -- | & ! <->", ['drop', 'table', 'take']],
  ['…', []],
])('%s is cut alike here and in the database', async (text, words) => {
  expect(searchWords(text)).toEqual(words);
  const { there } = await one(
    db().rows<{ there: string[] }>('SELECT tsvector_to_array(search_words($1)) AS there', [text]),
  );
  expect([...there].sort()).toEqual([...new Set(words)].sort());
});

it('asks for a bounded number of bounded words', () => {
  const long = `${'x'.repeat(10_000)} ${'word '.repeat(100)}`;
  const words = searchQuery(long).split(' & ');
  expect(words).toHaveLength(8);
  expect(words[0]).toBe(`${'x'.repeat(40)}:*`);
});

it('finds what begins with all words, wherever it stands, and goes there', async () => {
  const id = await createComparison(engineer, draft('Brødre på Łódź'), NOON);
  await addChain(engineer, id, { name: 'Lodz chain', items: '', priceCents: null });
  await addPanelist(engineer, { alias: 'Łodzia', experience: '', hearing: '', playback: '' }, NOON);
  expect(await found('lod')).toEqual([
    'comparison: Brødre på Łódź',
    'chain: Lodz chain',
    'person: Łodzia',
  ]);
  expect(await found('brodre LÓDZ')).toEqual(['comparison: Brødre på Łódź']);
  expect(await found('brodre chain')).toEqual([]);
  expect(await found('')).toEqual([]);
  const [comparison, chain, person] = (await searchBank(engineer, 'lod')).found;
  expect(comparison!.address).toBe(`/comparisons/${id}`);
  expect([chain!.address, chain!.where]).toEqual([`/comparisons/${id}/chains`, 'Brødre på Łódź']);
  expect(person!.address).toBe(`/panel?q=${encodeURIComponent('Łodzia')}`);
  // Another studio finds nothing of it, and nobody what was deleted.
  expect(await found('lod', await testEngineer('Stranger'))).toEqual([]);
  await removeComparison(engineer, id, NOON);
  expect(await found('lod')).toEqual(['person: Łodzia']);
});

it('finds takes by their file, and what listeners said only once the sitting is closed', async () => {
  const bank = await bankWithClips(engineer);
  const [{ fileName }] = (await db().rows(
    'SELECT file_name AS "fileName" FROM take WHERE comparison_id = $1 ORDER BY file_name LIMIT 1',
    [bank.comparisonId],
  )) as [{ fileName: string }];
  const takes = await searchBank(engineer, fileName);
  const take = takes.found.find(({ kind }) => kind === 'take');
  expect(take).toMatchObject({
    text: fileName,
    address: `/comparisons/${bank.comparisonId}/takes?q=${encodeURIComponent(fileName)}`,
  });
  const closed = await answeredSitting(engineer, bank.comparisonId, {
    aliases: ['Ada'],
    liking: bank.chainIds,
  });
  const remark = (sittingId: string) =>
    db().rows("UPDATE answer SET remark = 'Rather écrasé, like felt.' WHERE sitting_id = $1", [
      sittingId,
    ]);
  await remark(closed);
  const open = await openTestSitting(engineer, bank.comparisonId);
  const listenerId = await insertListener(
    db(),
    { sittingId: open.sittingId, seat: 1, alias: 'Ben', playback: 'headphones', simulated: false },
    NOON,
  );
  await db().rows(
    `INSERT INTO answer (listener_id, sitting_id, seat, position, idempotency_key, switches, duration_s,
       answered_at, answer, heard_s, remark)
     VALUES ($1, $2, 1, 1, gen_random_uuid(), 1, 5, $3, '{"choice":"first"}', '{2,2}', 'Felt secret')`,
    [listenerId, open.sittingId, NOON],
  );
  const { found: said } = await searchBank(engineer, 'felt');
  expect(said).toEqual(
    Array.from({ length: 3 }, () => ({
      kind: 'remark',
      text: 'Rather écrasé, like felt.',
      where: 'Clarinet, bridge',
      address: `/comparisons/${bank.comparisonId}/results?open=words&sitting=${closed}`,
    })),
  );
  expect(await found('ecrase felt')).toHaveLength(3);
  expect(await found('secret')).toEqual([]);
});

it('shows the newest of thousands of takes, and finds old ones among them', async () => {
  const { comparisonId } = await bankWithClips(engineer);
  // Two hundred old ones, of two kinds, and three thousand newer ones.
  await db().rows(
    `INSERT INTO take (comparison_id, source_id, audio_id, file_name, created_at)
     SELECT $1, source_id, audio_id,
       CASE WHEN i <= 2 THEN 'bellows ' || i WHEN i <= 200 THEN 'zither ' || i ELSE 'quena ' || i END || '.wav',
       $2::timestamptz - (4000 - i) * interval '1 minute'
     FROM (SELECT source_id, audio_id FROM take WHERE comparison_id = $1 LIMIT 1) AS one,
       generate_series(1, 3200) AS i`,
    [comparisonId, NOON],
  );
  const newest = (kind: string, last: number) =>
    Array.from({ length: 6 }, (_, i) => `take: ${kind} ${last - i}.wav`);
  expect(await found('quena')).toEqual(newest('quena', 3200));
  expect(await found('q')).toEqual(newest('quena', 3200));
  expect(await found('zither')).toEqual(newest('zither', 200));
  expect(await found('bellows')).toEqual(['take: bellows 2.wav', 'take: bellows 1.wav']);
  expect(await found('quena 2345')).toEqual(['take: quena 2345.wav']);
});
