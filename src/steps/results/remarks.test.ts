import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { testEngineer, withTestDatabase } from '@/platform/test/database';
import { analysed, answeredSitting } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES, openTestSitting } from '@/steps/test/bank';
import { answersCsv, answersJson, resultsOf } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: { comparisonId: string; chainIds: string[] };
let sittingId: string;

const say = (seat: number, position: number, remark: string) =>
  db().rows('UPDATE answer SET remark = $4 WHERE sitting_id = $1 AND seat = $2 AND position = $3', [
    sittingId,
    seat,
    position,
    remark,
  ]);

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
  sittingId = await answeredSitting(engineer, bank.comparisonId, {
    aliases: ['Ada', 'Ben'],
    liking: bank.chainIds,
  });
  await say(2, 2, 'that must be the Ostra');
  await say(2, 1, 'boxy');
  await say(1, 2, '=1+1');
  await analysed(sittingId);
});

it('stand in the order of the trials, with what was heard, told apart when they name gear', async () => {
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  expect(
    result?.remarks.map(({ listener, position, text, namesGear }) => [
      listener,
      position,
      text,
      namesGear,
    ]),
  ).toEqual([
    ['Ben', 1, 'boxy', false],
    ['Ada', 2, '=1+1', false],
    ['Ben', 2, 'that must be the Ostra', true],
  ]);
  for (const { chains } of result?.remarks ?? []) {
    expect(chains).toHaveLength(2);
    for (const chain of chains) expect(CHAIN_NAMES).toContain(chain);
  }
});

it('go out with the answers, harmless in a spreadsheet', async () => {
  const json = await answersJson(engineer, bank.comparisonId, sittingId);
  expect(String(json.body)).toContain('that must be the Ostra');
  const csv = String((await answersCsv(engineer, bank.comparisonId, sittingId)).body);
  const cells = csv.split('\r\n').flatMap((line) => line.split(','));
  expect(cells).toContain(`"'=1+1"`);
});

it('are read by nobody while the sitting is open', async () => {
  const { sittingId: open } = await openTestSitting(engineer, bank.comparisonId);
  await expect(answersCsv(engineer, bank.comparisonId, open)).rejects.toMatchObject({
    status: 409,
  });
  const { result } = await resultsOf(engineer, bank.comparisonId, open);
  expect(result).toBeNull();
});
