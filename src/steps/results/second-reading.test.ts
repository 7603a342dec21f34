import { db } from '@/platform/database';
import { setAsideRule } from '@/core/design/set-aside-rule';
import type { SignedIn } from '@/platform/sign-in/service';
import { testEngineer, withTestDatabase } from '@/platform/test/database';
import { analysed, answeredSitting } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES } from '@/steps/test/bank';
import { analysisJson, resultsOf } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Second reader');
  bank = await bankWithClips(engineer);
});

const SURE = ['Ada', 'Ben', 'Cleo', 'Dag', 'Ellen', 'Finn', 'Gro'];
const AGAINST = ['Hauk', 'Ida', 'Jo', 'Kim', 'Liv', 'Mats'];

/** Seven like the third chain best; six like it least, and were hasty all along. */
async function split(rule: object): Promise<string> {
  const [first, second, third] = bank.chainIds as [string, string, string];
  const sittingId = await answeredSitting(engineer, bank.comparisonId, {
    aliases: [...SURE, ...AGAINST],
    liking: (listener) =>
      listener < SURE.length ? [third, first, second] : [second, first, third],
    change: { setAside: setAsideRule.parse(rule) },
    parts: [],
  });
  await db().rows(
    `UPDATE answer SET hasty = true WHERE listener_id IN
       (SELECT id FROM listener WHERE sitting_id = $1 AND alias = ANY ($2))`,
    [sittingId, AGAINST],
  );
  await analysed(sittingId);
  return sittingId;
}

const read = async (sittingId: string) =>
  (await resultsOf(engineer, bank.comparisonId, sittingId)).result!;

it('shows both where leaving out whom the sealed rule names reads otherwise', async () => {
  const sittingId = await split({ hastyPct: 50 });
  const { second, parts, across } = await read(sittingId);
  expect(second!.rule).toBe('was hasty in more than 50 % of their answers');
  expect(second!.aside.map(({ listener }) => listener)).toEqual(AGAINST);
  expect(second!.aside[0]!.grounds).toEqual(['hasty in 3 of 3']);
  // The headline stays that of everybody: seven against six show nothing.
  expect(parts![0]!.findings.headline).not.toContain('preferred');
  expect(across!.answers.liked.sentence).not.toContain(`the best is ${CHAIN_NAMES[2]}`);
  const part = second!.differing.find(({ of }) => of === 'Part 1')!;
  expect(part).toEqual({
    of: 'Part 1',
    everybody: parts![0]!.findings.headline,
    without: `${CHAIN_NAMES[2]} is preferred.`,
    figuresOnly: false,
  });
  expect(second!.empty).toBe(false);
  const { body } = await analysisJson(engineer, bank.comparisonId, sittingId);
  const { without } = JSON.parse(body) as {
    without: { aside: { listener: string }[]; parts: { answers: number }[] };
  };
  expect(without.aside.map(({ listener }) => listener)).toEqual(AGAINST);
  expect(without.parts.map(({ answers }) => answers)).toEqual([3 * SURE.length]);
});

it('says when a rule met nobody, or everybody; without a rule there is no second reading', async () => {
  expect((await read(await split({}))).second).toBeNull();
  const nobody = (await read(await split({ answeredPct: 50 }))).second!;
  expect([nobody.aside, nobody.differing, nobody.empty]).toEqual([[], [], false]);
  const sittingId = await split({ hastyPct: 50 });
  await db().rows('UPDATE answer SET hasty = true WHERE sitting_id = $1', [sittingId]);
  await db().rows('UPDATE sitting SET analysis = NULL WHERE id = $1', [sittingId]);
  await analysed(sittingId);
  const { second, parts } = await read(sittingId);
  expect([second!.aside.length, second!.empty, second!.differing]).toEqual([13, true, []]);
  expect(parts![0]!.findings.headline).not.toBe('Nobody answered.');
});
