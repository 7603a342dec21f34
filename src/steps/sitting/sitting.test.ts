import { sha256Hex } from '@/core/design/seal';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { addChain } from '@/steps/chains/service';
import { createComparison } from '@/steps/comparisons/service';
import { overviewOf } from '@/steps/overview/service';
import { bankWithClips, openTestSitting, PLAN } from '@/steps/test/bank';
import { accountOf } from './account';
import { sittingDraft } from './schema';
import { closeSitting, discardDraft, openSitting, planSitting, sittingsOf } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

interface Trial {
  seat: number;
  position: number;
  first: string;
  second: string;
  first_word: string;
  second_word: string;
}

const trialsOf = (sittingId: string) =>
  db().rows<Trial>(
    `SELECT seat, position, first_chain_id::text AS first, second_chain_id::text AS second, first_word,
       second_word FROM trial WHERE sitting_id = $1 ORDER BY seat, position`,
    [sittingId],
  );

describe('planning', () => {
  it('keeps one plan at a time, which can be changed and discarded', async () => {
    const { comparisonId } = bank;
    const first = await planSitting(engineer, comparisonId, PLAN, NOON);
    const again = await planSitting(engineer, comparisonId, { ...PLAN, seats: 9 }, NOON);
    expect(again).toBe(first);
    const { sittings, proposal } = await sittingsOf(engineer, comparisonId);
    expect(sittings.find(({ id }) => id === first)).toMatchObject({
      state: 'draft',
      seats: 9,
      seal: null,
    });
    expect(proposal?.draft).toMatchObject({ title: 'Clarinet, bridge', trialsPerListener: 3 });
    await discardDraft(engineer, comparisonId, first);
    expect((await sittingsOf(engineer, comparisonId)).sittings).toEqual([]);
  });

  it('needs clips', async () => {
    const draft = { title: 'New', question: '', sourceName: 'x', passageName: 'y' };
    const id = await createComparison(engineer, draft, NOON);
    await expect(planSitting(engineer, id, PLAN, NOON)).rejects.toThrow('make the match first');
    expect(await sittingsOf(engineer, id)).toMatchObject({ clipsReady: false, proposal: null });
    expect((await overviewOf(engineer, id)).states.sitting).toMatchObject({ locked: true });
  });

  it('cannot ask for nothing, or for too much', () => {
    for (const odd of [
      { trialsPerListener: 0 },
      { trialsPerListener: 121 },
      { seats: 0 },
      { seats: 2.5 },
      { title: ' ' },
      { prompt: 'x'.repeat(201) },
    ]) {
      expect(sittingDraft.safeParse({ ...PLAN, ...odd }).success).toBe(false);
    }
  });
});

describe('the account of minutes', () => {
  it('adds up by hand', () => {
    // Six chains make 15 pairs; a 10 s clip is heard 1.6 times each and takes 6 s to decide: 38 s a trial.
    const account = accountOf({ seats: 12, trialsPerListener: 15 }, 6, 10);
    expect(account.pairs).toBe(15);
    expect(account.minutesEach).toBeCloseTo(2.5 + (15 * 38) / 60, 9);
    expect(account.minutesInAll).toBeCloseTo(12 * account.minutesEach, 9);
    expect(account.judgementsPerPair).toBe(12);
  });

  it('says that one listener proves nothing, and that two chains need fewer than six', () => {
    expect(accountOf({ seats: 1, trialsPerListener: 1 }, 2, 10).detectableShare).toBeNull();
    const two = accountOf({ seats: 60, trialsPerListener: 1 }, 2, 10);
    const six = accountOf({ seats: 60, trialsPerListener: 1 }, 6, 10);
    expect(two.neededFor70).toBeLessThan(six.neededFor70);
    expect(two.detectableShare).toBeCloseTo(0.69, 1);
  });
});

describe('opening', () => {
  it('draws a balanced key, and the second of two seats mirrors the first', async () => {
    const { sittingId } = await openTestSitting(engineer, bank.comparisonId, {
      seats: 6,
      trialsPerListener: 6,
    });
    const trials = await trialsOf(sittingId);
    expect(trials.length).toBe(36);
    const firsts = new Map<string, number>();
    for (const { first } of trials) firsts.set(first, (firsts.get(first) ?? 0) + 1);
    expect([...firsts.values()]).toEqual([12, 12, 12]);
    const pairsOf = (seat: number, mirrored: boolean) =>
      trials
        .filter((trial) => trial.seat === seat)
        .map(({ first, second }) => (mirrored ? `${second} ${first}` : `${first} ${second}`))
        .sort();
    for (const seat of [1, 3, 5]) expect(pairsOf(seat, false)).toEqual(pairsOf(seat + 1, true));
    for (let seat = 1; seat <= 6; seat++) {
      const words = trials
        .filter((trial) => trial.seat === seat)
        .flatMap(({ first_word: a, second_word: b }) => [a, b]);
      expect(new Set(words).size).toBe(12);
    }
  });

  it('gives a chain one word all through when asked to', async () => {
    const { sittingId } = await openTestSitting(engineer, bank.comparisonId, { codeMode: 'fixed' });
    const words = new Map<string, Set<string>>();
    for (const trial of await trialsOf(sittingId)) {
      for (const [chain, word] of [
        [trial.first, trial.first_word],
        [trial.second, trial.second_word],
      ]) {
        words.set(chain, (words.get(chain) ?? new Set()).add(word));
      }
    }
    expect([...words.values()].map(({ size }) => size)).toEqual([1, 1, 1]);
  });

  it('fixes the plan: it opens once, and cannot be discarded or planned anew', async () => {
    const { comparisonId } = bank;
    const { sittingId, seal } = await openTestSitting(engineer, comparisonId);
    expect((await openSitting(engineer, comparisonId, sittingId, NOON)).seal).toBe(seal);
    await expect(discardDraft(engineer, comparisonId, sittingId)).rejects.toMatchObject({
      status: 409,
    });
    const other = await planSitting(engineer, comparisonId, PLAN, NOON);
    expect(other).not.toBe(sittingId);
    await expect(closeSitting(engineer, comparisonId, other, NOON)).rejects.toThrow(
      'not opened yet',
    );
    await discardDraft(engineer, comparisonId, other);
    const [{ sealed_key: key }] = await db().rows<{ sealed_key: string }>(
      'SELECT sealed_key FROM sitting WHERE id = $1',
      [sittingId],
    );
    expect(await sha256Hex(key)).toBe(seal);
  });

  it('seals another key each time, with the same trials or not', async () => {
    const seals = new Set<string>();
    for (let i = 0; i < 3; i++) {
      const id = await planSitting(engineer, bank.comparisonId, PLAN, NOON);
      // The same draws: still the nonce makes each seal its own.
      seals.add((await openSitting(engineer, bank.comparisonId, id, NOON, () => 42)).seal);
    }
    expect(seals.size).toBe(3);
  });

  it('is not for strangers', async () => {
    const stranger = await testEngineer('Somebody Else');
    const { sittingId } = await openTestSitting(engineer, bank.comparisonId);
    await expect(closeSitting(stranger, bank.comparisonId, sittingId, NOON)).rejects.toMatchObject({
      status: 404,
    });
    await expect(sittingsOf(stranger, bank.comparisonId)).rejects.toMatchObject({ status: 404 });
  });
});

describe('the database', () => {
  it('refuses an answer to a trial of another seat, and a second one to the same', async () => {
    const { sittingId } = await openTestSitting(engineer, bank.comparisonId);
    const [{ id }] = await db().rows<{ id: string }>(
      `INSERT INTO listener (sitting_id, seat, alias, token_hash, consented_at)
       VALUES ($1, 1, 'Nils', 'n', $2) RETURNING id`,
      [sittingId, NOON],
    );
    const insert = (seat: number, position: number) =>
      db().rows(
        `INSERT INTO answer (listener_id, sitting_id, seat, position, choice, idempotency_key,
           first_heard_s, second_heard_s, switches, duration_s, answered_at)
         VALUES ($1, $2, $3, $4, 'first', gen_random_uuid(), 3, 3, 0, 9, $5)`,
        [id, sittingId, seat, position, NOON],
      );
    await expect(insert(2, 1)).rejects.toThrow(/foreign key/);
    await expect(insert(1, 99)).rejects.toThrow(/foreign key/);
    await insert(1, 1);
    await expect(insert(1, 1)).rejects.toThrow(/duplicate key/);
  });

  it('refuses a sitting that is open without a seal, and results before closing', async () => {
    const { sittingId } = await openTestSitting(engineer, bank.comparisonId);
    await expect(
      db().rows('UPDATE sitting SET seal = NULL WHERE id = $1', [sittingId]),
    ).rejects.toThrow(/check constraint/);
    await expect(
      db().rows(`UPDATE sitting SET analysis = '{}' WHERE id = $1`, [sittingId]),
    ).rejects.toThrow(/check constraint/);
  });
});

describe('the overview', () => {
  it('says at every step what is next', async () => {
    const draft = { title: 'Walk', question: '', sourceName: 'x', passageName: 'y' };
    const id = await createComparison(engineer, draft, NOON);
    expect((await overviewOf(engineer, id)).next.step).toBe('chains');
    for (const name of ['a', 'b']) {
      await addChain(engineer, id, { name, items: '', priceCents: null });
    }
    const overview = await overviewOf(engineer, id);
    expect(overview.next).toEqual({ step: 'takes', text: 'Drop a take of each chain.' });
    expect(overview.states.match).toMatchObject({ word: 'needs two takes', locked: true });
    const matched = await overviewOf(engineer, bank.comparisonId);
    expect(matched.states.match.word).toMatch(/^±0\.0\d LU$/);
    expect(matched.states.takes).toMatchObject({ word: '3 of 3', settled: true });
  });
});
