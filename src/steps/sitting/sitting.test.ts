import { randomUUID } from 'node:crypto';
import { sha256Hex } from '@/core/design/seal';
import { Random } from '@/core/signal/random';
import { ANALYSIS_PLAN } from '@/core/statistics/analysis-plan';
import { TASK_IDS, TASKS } from '@/core/tasks';
import { PROGRAM } from '@/core/version';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { one } from '@/platform/one';
import { addChain } from '@/steps/chains/service';
import type { Comparison } from '@/steps/comparisons/schema';
import {
  changeComparison,
  comparisonOf,
  createComparison,
  sourcesSeen,
} from '@/steps/comparisons/service';
import { answer, finishStage, join, viewFor } from '@/steps/listening/service';
import { overviewOf } from '@/steps/overview/service';
import { keyFile, resultsOf } from '@/steps/results/service';
import { HERE, bankWithClips, openTestSitting, testPlan } from '@/steps/test/bank';
import { accountOf, trialsOfPart } from './account';
import { anySealedKey, planOf, sealedKey, sittingDraft } from './schema';
import { listSittings } from './store';
import {
  breakSeal,
  closeSitting,
  discardDraft,
  listenByName,
  openSitting,
  planSitting,
  rehearse,
  sealedQuestionsOf,
  sittingsOf,
  tidyRehearsals,
} from './service';

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
  chains: string[];
  words: string[];
}

const trialsOf = (sittingId: string) =>
  db().rows<Trial>(
    `SELECT seat, position, array_agg(chain_id::text ORDER BY slot) AS chains,
       array_agg(word ORDER BY slot) AS words
     FROM trial_clip WHERE sitting_id = $1 GROUP BY seat, position ORDER BY seat, position`,
    [sittingId],
  );

describe('planning', () => {
  it('keeps one plan at a time, which can be changed and discarded', async () => {
    const { comparisonId } = bank;
    const plan = await testPlan(comparisonId);
    const first = await planSitting(engineer, comparisonId, plan, NOON);
    const again = await planSitting(engineer, comparisonId, { ...plan, seats: 9 }, NOON);
    expect(again).toBe(first);
    const { sittings, proposal } = await sittingsOf(engineer, comparisonId);
    expect(sittings.find(({ id }) => id === first)).toMatchObject({
      state: 'draft',
      seats: 9,
      seal: null,
    });
    expect(proposal).toMatchObject({
      title: 'Clarinet, bridge',
      parts: [{ task: 'pair', trials: 3, controls: { self: true, levelCatch: true, repeats: 1 } }],
    });
    await discardDraft(engineer, comparisonId, first);
    expect((await sittingsOf(engineer, comparisonId)).sittings).toEqual([]);
  });

  it('needs clips', async () => {
    const draft = { title: 'New', question: '', sourceName: 'x', passageName: 'y' };
    const id = await createComparison(engineer, draft, NOON);
    const plan = await testPlan(bank.comparisonId);
    await expect(planSitting(engineer, id, plan, NOON)).rejects.toThrow('needs matched clips');
    expect(await sittingsOf(engineer, id)).toMatchObject({ sets: [], proposal: null });
    expect((await overviewOf(engineer, id)).steps).toContainEqual(
      expect.objectContaining({ id: 'sitting', locked: true, word: 'needs clips' }),
    );
  });

  it('cannot ask for nothing, for too much, or for what its task does not know', async () => {
    const plan = await testPlan(bank.comparisonId);
    const [part] = plan.parts;
    const [a] = bank.chainIds;
    for (const odd of [{ seats: 0 }, { seats: 2.5 }, { title: ' ' }, { parts: [] }]) {
      expect(sittingDraft.safeParse({ ...plan, ...odd }).success).toBe(false);
    }
    for (const odd of [
      { trials: 0 },
      { trials: 121 },
      { prompt: 'x'.repeat(201) },
      { task: 'two-interval' },
      { task: 'memory', pair: [a, a] },
      { task: 'words' },
      { words: ['bright'] },
      { task: 'words', words: ['a;b'] },
      { task: 'unheard-of' },
    ]) {
      expect(sittingDraft.safeParse({ ...plan, parts: [{ ...part, ...odd }] }).success).toBe(false);
    }
  });

  it('names chains of its own clips only', async () => {
    const stranger = '00000000-0000-4000-8000-000000000000';
    const pair: [string, string] = [bank.chainIds[0]!, stranger];
    const plan = await testPlan(bank.comparisonId, {}, { task: 'memory', pair });
    await expect(planSitting(engineer, bank.comparisonId, plan, NOON)).rejects.toThrow(
      'not among its clips',
    );
  });
});

describe('the account of minutes', () => {
  const pairs = (trials: number) => ({
    task: 'pair' as const,
    trials,
    pair: null,
    controls: { self: false, levelCatch: false, repeats: 0 },
  });

  it('adds up by hand', () => {
    // Six chains make 15 pairs; a 10 s clip is heard 1.6 times each and takes 6 s to decide: 38 s a trial.
    const clips = [{ chains: 6, clipSeconds: 10 }];
    const account = accountOf({ seats: 12, sightedTrials: 0, parts: [pairs(15)] }, clips);
    expect(account.minutesEach).toBeCloseTo(2.5 + 20 / 60 + (15 * 38) / 60, 9);
    expect(account.minutesInAll).toBeCloseTo(12 * account.minutesEach, 9);
    expect(account.parts[0]!.buys).toContain('About 12 judgements for each of 15 pairs');
    const lines = accountOf(
      { seats: 12, sightedTrials: 0, parts: [pairs(15), { ...pairs(1), task: 'line' }] },
      [...clips, ...clips],
    );
    // One line of six clips: 6 · 16 s and 6 s more; and the pause of a quarter of an hour is not reached.
    expect(lines.parts[1]!.minutesEach).toBeCloseTo((20 + 6 * 16 + 6) / 60, 9);
    expect(lines.minutesEach - account.minutesEach).toBeCloseTo(lines.parts[1]!.minutesEach, 9);
  });

  it('counts controls and learning as trials', () => {
    const controls = { self: true, levelCatch: true, repeats: 3 };
    expect(trialsOfPart({ ...pairs(10), controls })).toBe(15);
    expect(trialsOfPart({ ...pairs(2), controls })).toBe(6);
    expect(trialsOfPart({ ...pairs(6), task: 'memory' })).toBe(7);
    expect(trialsOfPart({ ...pairs(6), task: 'reference', controls })).toBe(10);
  });

  it('counts answers, and promises nothing of what they find', () => {
    const bought = (seats: number, chains: number) =>
      accountOf({ seats, sightedTrials: 0, parts: [pairs(1)] }, [{ chains, clipSeconds: 10 }])
        .parts[0]!.buys;
    expect(bought(1, 2)).toBe('About 1 judgement for the pair, of one listener.');
    expect(bought(60, 2)).toBe('About 60 judgements for the pair, of 60 listeners.');
    expect(bought(4, 4)).toContain('can tell nothing of single pairs');
  });
});

describe('opening', () => {
  it('draws a balanced key, and the second of two seats mirrors the first', async () => {
    const { sittingId } = await openTestSitting(
      engineer,
      bank.comparisonId,
      { seats: 6 },
      { trials: 6 },
    );
    const trials = await trialsOf(sittingId);
    expect(trials.length).toBe(36);
    const firsts = new Map<string, number>();
    for (const { chains } of trials) firsts.set(chains[0]!, (firsts.get(chains[0]!) ?? 0) + 1);
    expect([...firsts.values()]).toEqual([12, 12, 12]);
    const pairsOf = (seat: number, mirrored: boolean) =>
      trials
        .filter((trial) => trial.seat === seat)
        .map(({ chains }) => (mirrored ? [...chains].reverse() : chains).join(' '))
        .sort();
    for (const seat of [1, 3, 5]) expect(pairsOf(seat, false)).toEqual(pairsOf(seat + 1, true));
    for (let seat = 1; seat <= 6; seat++) {
      const words = trials.filter((trial) => trial.seat === seat).flatMap((trial) => trial.words);
      expect(new Set(words).size).toBe(12);
    }
  });

  it('gives a chain one word all through when asked to', async () => {
    const { sittingId } = await openTestSitting(engineer, bank.comparisonId, { codeMode: 'fixed' });
    const words = new Map<string, Set<string>>();
    for (const trial of await trialsOf(sittingId)) {
      trial.chains.forEach((chain, i) =>
        words.set(chain, (words.get(chain) ?? new Set()).add(trial.words[i]!)),
      );
    }
    expect([...words.values()].map(({ size }) => size)).toEqual([1, 1, 1]);
  });

  it('draws every task, part after part, the same number of trials for every seat', async () => {
    const [a, b] = bank.chainIds as [string, string];
    const pair: [string, string] = [a, b];
    const parts = TASK_IDS.map((task) => ({
      task,
      trials: 2,
      pair: TASKS[task].ofOnePair ? pair : null,
      controls: { self: true, levelCatch: true, repeats: 1 },
      words: task === 'words' ? ['bright', 'dark'] : [],
    }));
    const { sittingId, seal } = await openTestSitting(
      engineer,
      bank.comparisonId,
      { seats: 3 },
      ...parts,
    );
    const rows = await db().rows<{ part: number; count: number }>(
      `SELECT part, count(*)::int AS count FROM trial WHERE sitting_id = $1 GROUP BY part ORDER BY part`,
      [sittingId],
    );
    expect(rows.map(({ count }) => count)).toEqual(
      parts.map((part) => 3 * trialsOfPart({ ...part, pair: null })),
    );
    const { sealed_key: text } = await one(
      db().rows<{ sealed_key: string }>('SELECT sealed_key FROM sitting WHERE id = $1', [
        sittingId,
      ]),
    );
    expect(await sha256Hex(text)).toBe(seal);
    expect(anySealedKey.parse(JSON.parse(text)).chains.length).toBe(3);
    await expect(
      db().rows(`UPDATE trial_clip SET gain_db = 2 WHERE sitting_id = $1`, [sittingId]),
    ).rejects.toThrow(/check constraint/);
  });

  it('fixes the plan: it opens once, and cannot be discarded or planned anew', async () => {
    const { comparisonId } = bank;
    const { sittingId, seal } = await openTestSitting(engineer, comparisonId);
    const sealed = await testPlan(comparisonId);
    // Asked again, as after a lost reply, it says the same.
    expect((await openSitting(engineer, comparisonId, sittingId, sealed, NOON)).seal).toBe(seal);
    await expect(discardDraft(engineer, comparisonId, sittingId)).rejects.toMatchObject({
      status: 409,
    });
    const plan = await testPlan(comparisonId);
    const other = await planSitting(engineer, comparisonId, plan, NOON);
    expect(other).not.toBe(sittingId);
    await expect(closeSitting(engineer, comparisonId, other, NOON)).rejects.toThrow(
      'not opened yet',
    );
    await discardDraft(engineer, comparisonId, other);
    const { sealed_key: key } = await one(
      db().rows<{ sealed_key: string }>('SELECT sealed_key FROM sitting WHERE id = $1', [
        sittingId,
      ]),
    );
    expect(await sha256Hex(key)).toBe(seal);
  });

  it('seals what whoever seals it saw, not what somebody else saved meanwhile', async () => {
    const { comparisonId } = bank;
    const mine = await testPlan(comparisonId, { title: 'Mine' });
    const theirs = await testPlan(comparisonId, { title: 'Theirs', seats: 9 }, { trials: 5 });
    const id = await planSitting(engineer, comparisonId, mine, NOON);
    expect(await planSitting(engineer, comparisonId, theirs, NOON)).toBe(id);
    await openSitting(engineer, comparisonId, id, mine, NOON);
    await expect(openSitting(engineer, comparisonId, id, theirs, NOON)).rejects.toMatchObject({
      status: 409,
      message: expect.stringContaining('Somebody sealed another plan just now') as string,
    });
    const sealed = (await listSittings(db(), comparisonId)).find((sitting) => sitting.id === id)!;
    expect(planOf(sealed)).toEqual(mine);
  });

  it('gives each of several who save and seal at once a sitting of their own plan', async () => {
    const { comparisonId } = bank;
    const sealOwn = async (title: string): Promise<string> => {
      const plan = await testPlan(comparisonId, { title });
      for (;;) {
        const id = await planSitting(engineer, comparisonId, plan, NOON);
        const refused = await openSitting(engineer, comparisonId, id, plan, NOON).catch(
          (error: unknown) => error,
        );
        if (!(refused instanceof Error)) return id;
        expect(refused).toMatchObject({ status: 409 });
      }
    };
    const titles = ['at once 1', 'at once 2', 'at once 3', 'at once 4', 'at once 5', 'at once 6'];
    const ids = await Promise.all(titles.map(sealOwn));
    const listed = await listSittings(db(), comparisonId);
    expect(ids.map((id) => listed.find((sitting) => sitting.id === id)?.title)).toEqual(titles);
  });

  it('seals another key each time, with the same trials or not', async () => {
    const seals = new Set<string>();
    for (let i = 0; i < 3; i++) {
      const plan = await testPlan(bank.comparisonId);
      const id = await planSitting(engineer, bank.comparisonId, plan, NOON);
      // The same draws: still the nonce makes each seal its own.
      seals.add(
        (await openSitting(engineer, bank.comparisonId, id, plan, NOON, new Random(42))).seal,
      );
    }
    expect(seals.size).toBe(3);
  });

  it('breaks a seal only on purpose, once, and never in secret', async () => {
    const { comparisonId } = bank;
    const { sittingId } = await openTestSitting(engineer, comparisonId);
    const breaking = (reason: string, title = 'Clarinet, bridge') =>
      breakSeal(engineer, comparisonId, sittingId, { reason, title }, NOON);
    await expect(keyFile(engineer, comparisonId, sittingId)).rejects.toMatchObject({ status: 409 });
    await expect(breaking('a slip', 'Something')).rejects.toThrow('the seal is whole');
    await breaking('a listener fell ill');
    await breaking('another reason');
    const sitting = (await sittingsOf(engineer, comparisonId)).sittings.find(
      ({ id }) => id === sittingId,
    );
    expect(sitting).toMatchObject({ sealBrokenAt: NOON, sealBrokenReason: 'a listener fell ill' });
    expect((await keyFile(engineer, comparisonId, sittingId)).body).toContain('nonce');
    await closeSitting(engineer, comparisonId, sittingId, NOON);
    await expect(breaking('too late')).rejects.toMatchObject({ status: 409 });
    const { result } = await resultsOf(engineer, comparisonId, sittingId);
    expect(result?.sealBroken).toEqual({ at: NOON, reason: 'a listener fell ill' });
  });

  it('shows how evenly the orders came out, and which clips are hardest to tell apart', async () => {
    const { comparisonId, chainIds } = bank;
    const { sittingId } = await openTestSitting(engineer, comparisonId);
    const { sittings, sets } = await sittingsOf(engineer, comparisonId);
    const sitting = sittings.find(({ id }) => id === sittingId);
    const drawn = await trialsOf(sittingId);
    const counts = chainIds.map((id) => drawn.filter(({ chains }) => chains.includes(id)).length);
    expect(sitting?.balances).toHaveLength(1);
    expect(sitting?.balances[0]).toMatchObject({
      shown: [Math.min(...counts), Math.max(...counts)],
      sameRunning: 0,
    });
    expect(JSON.stringify(sitting?.balances)).not.toContain(chainIds[0]);
    const { closest } = sets[0]!;
    expect(closest?.distanceDb).toBeGreaterThanOrEqual(0);
    expect(closest?.pair.every((id) => chainIds.includes(id))).toBe(true);
  });

  it('is not for strangers', async () => {
    const stranger = await testEngineer('Passing By');
    const { sittingId } = await openTestSitting(engineer, bank.comparisonId);
    await expect(closeSitting(stranger, bank.comparisonId, sittingId, NOON)).rejects.toMatchObject({
      status: 404,
    });
    await expect(sittingsOf(stranger, bank.comparisonId)).rejects.toMatchObject({ status: 404 });
  });
});

describe('a rehearsal', () => {
  it('is walked like a sitting, stands beside a plan, is listed nowhere, and goes', async () => {
    const { comparisonId } = bank;
    const plan = await testPlan(comparisonId);
    const kept = await planSitting(engineer, comparisonId, plan, NOON);
    const before = (await sittingsOf(engineer, comparisonId)).sittings.length;
    const { token } = await rehearse(engineer, comparisonId, { ...plan, seats: 40 }, NOON);
    expect(await viewFor(token, undefined)).toMatchObject({ phase: 'join', purpose: 'rehearsal' });
    const seat = await join(token, { alias: 'Me', playback: 'earbuds', consent: true }, HERE, NOON);
    await finishStage(token, seat, { stage: 'level' });
    await finishStage(token, seat, { stage: 'practice' });
    const given = { position: 1, answer: { choice: 'first' as const }, key: randomUUID() };
    await answer(token, seat, { ...given, heardS: [3, 3], switches: 1, durationS: 9 }, NOON);
    expect((await sittingsOf(engineer, comparisonId)).sittings.length).toBe(before);
    const later = await rehearse(engineer, comparisonId, plan, NOON);
    await expect(viewFor(token, seat)).rejects.toMatchObject({ status: 404 });
    await tidyRehearsals(new Date(NOON.getTime() + 1));
    await expect(viewFor(later.token, undefined)).rejects.toMatchObject({ status: 404 });
    await discardDraft(engineer, comparisonId, kept);
  });
});

describe('closing', () => {
  const ids = () => bank.comparisonId;
  /** Changes rows behind the product's back, then tries to close. */
  async function closedAfter(statement: string, sittingId: string): Promise<unknown> {
    await db().rows(statement, [sittingId]);
    return closeSitting(engineer, ids(), sittingId, NOON).then(
      () => null,
      (error: unknown) => error,
    );
  }

  it.each([
    [
      'two chains swapped in a trial',
      `UPDATE trial_clip AS one SET chain_id = other.chain_id FROM trial_clip AS other
       WHERE one.sitting_id = $1 AND (other.sitting_id, other.seat, other.position)
         = (one.sitting_id, one.seat, one.position) AND other.slot = 1 - one.slot
         AND one.seat = 2 AND one.position = 3`,
      'trial 3 of seat 2 is not as it was sealed',
    ],
    [
      'another level',
      `UPDATE trial_clip SET gain_db = 1 WHERE sitting_id = $1 AND seat = 1 AND position = 2 AND slot = 0`,
      'trial 2 of seat 1 is not as it was sealed',
    ],
    [
      'a judgement made a control',
      `UPDATE trial SET kind = 'repeat' WHERE sitting_id = $1 AND seat = 1 AND position = 1`,
      'trial 1 of seat 1 is not as it was sealed',
    ],
    [
      'another key',
      `UPDATE sitting SET sealed_key = replace(sealed_key, '"a', '"b') WHERE id = $1`,
      'the key is not the one whose seal was shown',
    ],
    [
      'a trial taken away',
      `DELETE FROM trial WHERE sitting_id = $1 AND seat = 3 AND position = 1`,
      'seat 3 has another number of trials',
    ],
  ])('is refused with the difference: %s', async (_, statement, difference) => {
    const { sittingId } = await openTestSitting(engineer, ids());
    const refused = await closedAfter(statement, sittingId);
    expect(refused).toMatchObject({ status: 409 });
    expect(String(refused)).toContain(difference);
    const { state } = await one(
      db().rows<{ state: string }>('SELECT state FROM sitting WHERE id = $1', [sittingId]),
    );
    expect(state).toBe('open');
    // Openly, with a reason, it can be closed so; that stands in every report.
    const breaking = { reason: 'the bank was tampered with', title: 'Clarinet, bridge' };
    await breakSeal(engineer, ids(), sittingId, breaking, NOON);
    await closeSitting(engineer, ids(), sittingId, NOON);
  });

  it('is refused when another sound lies under a clip', async () => {
    const { sittingId } = await openTestSitting(engineer, ids());
    const swap = `UPDATE clip AS one SET master_audio_id = other.master_audio_id FROM clip AS other
      WHERE one.clip_set_id = other.clip_set_id AND one.chain_id <> other.chain_id
        AND one.chain_id IN (SELECT chain_id FROM clip ORDER BY chain_id LIMIT 2)
        AND other.chain_id IN (SELECT chain_id FROM clip ORDER BY chain_id LIMIT 2)
        AND $1::uuid IS NOT NULL`;
    const refused = await closedAfter(swap, sittingId);
    expect(String(refused)).toMatch(/the clip of .* in part 1 is another/);
    await db().rows(swap, [sittingId]);
    await closeSitting(engineer, ids(), sittingId, NOON);
  });

  it('replays pairs that followed the answers, and finds one that did not', async () => {
    const change = { seats: 2 };
    const part = {
      adaptive: true,
      trials: 6,
      controls: { self: true, levelCatch: true, repeats: 0 },
    };
    for (const tampered of [false, true]) {
      const { sittingId, token } = await openTestSitting(engineer, ids(), change, part);
      const me = { alias: 'Me', playback: 'earbuds' as const, consent: true as const };
      const seat = await join(token, me, HERE, NOON);
      await finishStage(token, seat, { stage: 'level' });
      await finishStage(token, seat, { stage: 'practice' });
      for (let position = 1; position <= 5; position++) {
        const choice = (['first', 'tie', 'second'] as const)[position % 3]!;
        const given = { position, answer: { choice }, key: randomUUID() };
        await answer(token, seat, { ...given, heardS: [3, 3], switches: 1, durationS: 9 }, NOON);
      }
      const sql = tampered
        ? `UPDATE trial_clip AS one SET chain_id = other.chain_id FROM trial_clip AS other, trial
           WHERE one.sitting_id = $1 AND (other.sitting_id, other.seat, other.position)
             = (one.sitting_id, one.seat, one.position) AND other.slot = 1 - one.slot
             AND (trial.sitting_id, trial.seat, trial.position) = (one.sitting_id, one.seat, one.position)
             AND kind = 'judged' AND one.seat = 1 AND one.position = (SELECT max(position) FROM trial
               WHERE sitting_id = $1 AND seat = 1 AND kind = 'judged')`
        : 'SELECT $1::uuid';
      const refused = await closedAfter(sql, sittingId);
      if (tampered) expect(String(refused)).toContain('is not as it was sealed');
      else expect(refused).toBeNull();
    }
  });

  it('seals what is analysed and by what: task, order, clips, plan, versions', async () => {
    const { sittingId } = await openTestSitting(engineer, ids());
    const { key } = await one(
      db().rows<{ key: string }>('SELECT sealed_key AS key FROM sitting WHERE id = $1', [
        sittingId,
      ]),
    );
    const sealed = sealedKey.parse(JSON.parse(key));
    expect(sealed).toMatchObject({
      document: 'zeitbank sealed key 3',
      program: PROGRAM,
      analysisVersion: ANALYSIS_PLAN.version,
      analysis: ANALYSIS_PLAN.text,
      plan: { parts: [{ task: 'pair' }] },
    });
    const masters = await db().rows<{ sha256: string }>(
      'SELECT sha256 FROM clip JOIN audio ON audio.id = master_audio_id WHERE clip_set_id = $1',
      [bank.clipSetId],
    );
    expect(Object.values(sealed.clips[0]!).sort()).toEqual(
      masters.map(({ sha256 }) => sha256).sort(),
    );
  });
});

describe('listening by name', () => {
  it('to what an open sitting asks about is refused; who insists is written down for every report', async () => {
    const { comparisonId, clipSetId } = await bankWithClips(engineer);
    const { id: takeId } = await one(
      db().rows<{ id: string }>('SELECT id FROM take WHERE comparison_id = $1 LIMIT 1', [
        comparisonId,
      ]),
    );
    const hear = (insists: boolean, at = NOON) =>
      Promise.all([
        listenByName(engineer, comparisonId, { clipSetId }, insists, at),
        listenByName(engineer, comparisonId, { takeId }, insists, at),
      ]);
    await hear(false);
    const { sittingId } = await openTestSitting(engineer, comparisonId);
    await expect(hear(false)).rejects.toMatchObject({ status: 409 });
    const named = async () =>
      (await sittingsOf(engineer, comparisonId)).sittings.find(({ id }) => id === sittingId)
        ?.namedListening;
    expect(await named()).toEqual([]);
    await hear(true);
    await hear(true, new Date(NOON.getTime() + 90_000));
    expect(await named()).toEqual([{ name: engineer.name, at: NOON }]);
    await closeSitting(engineer, comparisonId, sittingId, NOON);
    await hear(false);
    expect((await resultsOf(engineer, comparisonId, sittingId)).result?.namedListening).toEqual([
      { name: engineer.name, at: NOON },
    ]);
  });
});

describe('the database', () => {
  it('refuses an answer to a trial of another seat, and a second one to the same', async () => {
    const { sittingId } = await openTestSitting(engineer, bank.comparisonId);
    const { id } = await one(
      db().rows<{ id: string }>(
        `INSERT INTO listener (sitting_id, seat, alias, alias_key, consented_at)
       VALUES ($1, 1, 'Nils', 'nils', $2) RETURNING id`,
        [sittingId, NOON],
      ),
    );
    const insert = (seat: number, position: number) =>
      db().rows(
        `INSERT INTO answer (listener_id, sitting_id, seat, position, answer, idempotency_key, heard_s,
           switches, duration_s, answered_at)
         VALUES ($1, $2, $3, $4, '{"choice":"first"}', gen_random_uuid(), '{3,3}', 0, 9, $5)`,
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

describe('the question', () => {
  const write = async (
    comparisonId: string,
    title: string,
    nullHypothesis: string,
    question?: string,
    contexts: Comparison['brief']['contexts'] = ['alone, raw'],
  ) => {
    const comparison = await comparisonOf(engineer, comparisonId);
    const { sources, ...rest } = {
      ...comparison,
      sources: await sourcesSeen(engineer, comparisonId),
    };
    const change = {
      ...rest,
      question: question ?? rest.question,
      sources,
      title,
      brief: { ...comparison.brief, nullHypothesis, contexts },
    };
    await changeComparison(engineer, comparisonId, change, NOON);
  };

  it('is locked where it was sealed, until the sitting is closed, and stays readable as sealed', async () => {
    const { comparisonId } = await bankWithClips(engineer);
    await write(comparisonId, 'Clarinet', 'Nobody hears the preamp.');
    expect(await sealedQuestionsOf(engineer, comparisonId)).toEqual([]);
    const { sittingId } = await openTestSitting(engineer, comparisonId);
    await expect(write(comparisonId, 'Clarinet', 'Everybody does.')).rejects.toThrow(
      'sealed with it',
    );
    const asked = (await comparisonOf(engineer, comparisonId)).question;
    await expect(
      write(comparisonId, 'Clarinet', 'Nobody hears the preamp.', 'Something else?'),
    ).rejects.toThrow('the question, its contexts, what would count as nothing');
    await expect(
      write(comparisonId, 'Clarinet', 'Nobody hears the preamp.', undefined, ['in the mix']),
    ).rejects.toThrow('its contexts');
    await write(comparisonId, 'Another title', 'Nobody hears the preamp.');
    expect(await comparisonOf(engineer, comparisonId)).toMatchObject({
      title: 'Another title',
      brief: { nullHypothesis: 'Nobody hears the preamp.' },
    });
    await closeSitting(engineer, comparisonId, sittingId, NOON);
    await write(comparisonId, 'Another title', 'Everybody does.');
    expect(await sealedQuestionsOf(engineer, comparisonId)).toMatchObject([
      {
        sittingId,
        open: false,
        question: {
          decides: asked,
          contexts: ['alone, raw'],
          nullHypothesis: 'Nobody hears the preamp.',
        },
      },
    ]);
  });

  it('is sealed with sittings of the panel only', async () => {
    const { comparisonId } = await bankWithClips(engineer);
    const plan = await testPlan(comparisonId);
    await rehearse(engineer, comparisonId, plan, NOON);
    await write(comparisonId, 'Clarinet', 'Nobody hears the preamp.');
    expect(await sealedQuestionsOf(engineer, comparisonId)).toEqual([]);
    const stranger = await testEngineer('Looking In');
    await expect(sealedQuestionsOf(stranger, comparisonId)).rejects.toThrow('is not here');
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
    expect(overview.steps.map(({ id: step, word, locked }) => [step, word, locked])).toEqual([
      ['question', 'written', false],
      ['chains', '2', false],
      ['takes', 'none yet', false],
      ['match', 'needs two takes', true],
      ['sitting', 'needs clips', true],
      ['results', 'opens at close', true],
      ['decision', 'not yet', false],
    ]);
    const matched = await overviewOf(engineer, bank.comparisonId);
    expect(matched.steps[2]).toMatchObject({ id: 'takes', word: '3 of 3', settled: true });
    expect(matched.steps[3]!.word).toMatch(/^±0\.0\d LU$/);
  });
});
