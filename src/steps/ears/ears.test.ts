import { randomUUID } from 'node:crypto';
import { standingOf } from '@/core/ears/session';
import { skillOf, usualChoices } from '@/core/ears/skills';
import { db } from '@/platform/database';
import { one } from '@/platform/one';
import { hashOfToken } from '@/platform/secret-link';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { addPanelist } from '@/steps/panel/service';
import { closeSitting, forgetPanelist } from '@/steps/sitting/service';
import { bankWithClips, CHAIN_NAMES, openTestSitting } from '@/steps/test/bank';
import { hearingOf } from './panel-hearing';
import { earsQuery, type SessionDraft, type Training } from './schema';
import {
  addSound,
  addTest,
  answerTrial,
  beginSession,
  earsOf,
  endTraining,
  findPeople,
  givenSound,
  removeSound,
  removeTest,
  shareWithPanel,
  traineeByLink,
  traineeOfEngineer,
  trainingLink,
  trainingOf,
} from './service';
import type { Trainee } from './store';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

const LEVEL: SessionDraft = {
  skill: 'level',
  choices: {},
  amount: null,
  sound: { kind: 'made', sound: 'cello' },
};
const band = skillOf('band')!;
const BAND_TEST: SessionDraft = {
  skill: 'band',
  choices: usualChoices(band),
  amount: 1,
  sound: { kind: 'made', sound: 'noise' },
};

const person = (alias: string) =>
  addPanelist(engineer, { alias, experience: '', hearing: '', playback: '' }, NOON);

/** Answers the open session: right at sizes of at least so much, else the first. */
async function walk(
  trainee: Trainee,
  view: () => Promise<Training>,
  leastAmount: number,
  most = Infinity,
): Promise<void> {
  for (let n = 0; n < most; n++) {
    const { open } = await view();
    if (!open) return;
    const { id: sessionId, skill, choices, amount, seed, answers } = open;
    const { next } = standingOf({ skill: skillOf(skill)!, choices, amount, seed }, answers);
    if (!next) return;
    const chosen = next.amount >= leastAmount ? next.odd : 0;
    await answerTrial(trainee, { sessionId, position: answers.length, chosen, seconds: 5 }, NOON);
  }
}

describe('an engineer', () => {
  let own: SignedIn;
  let trainee: Trainee;
  const view = () => trainingOf(trainee);
  beforeAll(async () => {
    own = await testEngineer('Ears of one');
    trainee = traineeOfEngineer(own);
  });

  it('trains to the end, and sees the threshold', async () => {
    await beginSession(trainee, LEVEL, NOON);
    await walk(trainee, view, 0.5);
    const { open, past } = await view();
    expect(open).toBeNull();
    expect(past).toHaveLength(1);
    expect(past[0]).toMatchObject({ title: 'Level steps', on: 'a cello', test: false });
    expect(past[0]!.shown!.from).toBeLessThan(0.5);
    expect(past[0]!.shown!.to).toBeGreaterThan(0.5);
    expect(past[0]!.says).toMatch(/^Heard three times of four at 0\.\d\d dB \(95 %: /);
  });

  it('goes on where it was left, on another device', async () => {
    await beginSession(trainee, LEVEL, new Date(NOON.getTime() + 60_000));
    await walk(trainee, view, 0.5, 5);
    const { open } = await view();
    expect(open!.answers).toHaveLength(5);
    expect(open!.answers[0]).toEqual({
      chosen: expect.any(Number) as number,
      seconds: 5,
      place: 1,
    });
  });

  it('answers each trial once, in order, and not after the end', async () => {
    const { open } = await view();
    const sessionId = open!.id;
    const send = (position: number, chosen: number) =>
      answerTrial(trainee, { sessionId, position, chosen, seconds: 1 }, NOON);
    await send(4, (open!.answers[4]!.chosen + 1) % 3);
    expect((await view()).open!.answers).toEqual(open!.answers);
    await expect(send(7, 0)).rejects.toMatchObject({ status: 409 });
    // Two at once for the same trial: one of them counts.
    await Promise.all([send(5, 1), send(5, 2)]);
    expect((await view()).open!.answers).toHaveLength(6);
    await endTraining(trainee, sessionId, NOON);
    await expect(send(6, 0)).rejects.toThrow('over; its answers are kept');
    expect((await view()).past).toHaveLength(2);
    expect((await view()).past[0]!.says).toContain('Ended after 6 answers');
  });

  it('begins another, which ends the one that was open', async () => {
    await beginSession(trainee, LEVEL, new Date(NOON.getTime() + 120_000));
    const first = (await view()).open!.id;
    await beginSession(trainee, BAND_TEST, new Date(NOON.getTime() + 180_000));
    const { open } = await view();
    expect(open!.id).not.toBe(first);
    const rows = await db().rows(
      'SELECT 1 FROM ear_session WHERE account_id = $1 AND ended_at IS NULL',
      [trainee.accountId],
    );
    expect(rows).toHaveLength(1);
  });

  it('is told of a test how many were right, and that guessing is no hearing', async () => {
    await walk(trainee, view, 2);
    const { past } = await view();
    expect(past[0]).toMatchObject({ test: true, shown: null });
    expect(past[0]!.says).toMatch(/^1\.0 dB: not shown to be heard \(\d+ of 16 right; 9 show/);
  });

  it('sees nobody else’s sessions, and answers none', async () => {
    await beginSession(trainee, LEVEL, new Date(NOON.getTime() + 240_000));
    const { id: sessionId } = (await view()).open!;
    const other = traineeOfEngineer(engineer);
    expect((await trainingOf(other)).past).toEqual([]);
    const answer = { sessionId, position: 0, chosen: 0, seconds: 1 };
    await expect(answerTrial(other, answer, NOON)).rejects.toMatchObject({ status: 404 });
    await expect(endTraining(other, sessionId, NOON)).rejects.toMatchObject({ status: 404 });
  });

  it('has a page with sessions, progress and what the panel was given', async () => {
    const page = await earsOf(own, earsQuery.parse({ page: '9' }));
    expect(page).toMatchObject({ found: 4, goesOn: true, query: { page: 1 } });
    expect(page.rows).toHaveLength(4);
    expect(page.progress.map(({ title }) => title)).toEqual(['Level steps']);
  });

  it.each([
    ['no skill', { skill: 'perfect pitch' }, 'Choose what to train.'],
    ['no choice of it', { choices: { centreHz: '3000' } }, 'Choose what to train.'],
    ['a size beyond', { amount: 60 }, 'A test of this is from 0.10 dB to 6.0 dB.'],
    ['a size that is no number', { amount: NaN }, 'A test of this is'],
    ['one clip where two are needed', { skill: 'chains' }, 'Choose clips of two chains'],
    [
      'a clip that is not there',
      {
        sound: {
          kind: 'clip' as const,
          comparisonId: randomUUID(),
          clipSetId: randomUUID(),
          chainId: randomUUID(),
          otherId: null,
        },
      },
      'This clip is not here',
    ],
  ])('is refused %s', async (_, change, sentence) => {
    await expect(beginSession(trainee, { ...LEVEL, ...change }, NOON)).rejects.toThrow(sentence);
  });

  it('trains on clips of the studio, on two for two chains', async () => {
    const { comparisonId, clipSetId, chainIds } = bank;
    const sound = {
      kind: 'clip' as const,
      comparisonId,
      clipSetId,
      chainId: chainIds[0]!,
      otherId: chainIds[1]!,
    };
    const draft = { ...LEVEL, skill: 'chains', sound };
    await expect(beginSession(trainee, draft, NOON)).rejects.toMatchObject({ status: 404 });
    await beginSession(traineeOfEngineer(engineer), draft, NOON);
    const { open, sounds } = await trainingOf(traineeOfEngineer(engineer));
    expect(open!.clips).toEqual(
      [0, 1].map((i) => `/api/comparisons/${comparisonId}/clips/${clipSetId}/${chainIds[i]!}`),
    );
    expect(sounds.length).toBe(chainIds.length);
    await expect(
      beginSession(
        traineeOfEngineer(engineer),
        { ...draft, sound: { ...sound, otherId: sound.chainId } },
        NOON,
      ),
    ).rejects.toThrow('two different chains');
  });
});

describe('somebody of the panel', () => {
  let token: string;
  let panelistId: string;
  const who = () => traineeByLink(token);
  const view = async () => trainingOf(await who(), token);
  beforeAll(async () => {
    panelistId = await person('Ilka');
    ({ token } = await trainingLink(engineer, panelistId, NOON));
  });

  it('comes by a link of their own, of which only a hash is kept; another takes its place', async () => {
    expect((await view()).alias).toBe('Ilka');
    const rows = await db().rows<{ row: string }>('SELECT ear_link::text AS row FROM ear_link');
    expect(rows.map(({ row }) => row).join()).not.toContain(token);
    expect(rows.map(({ row }) => row).join()).toContain(hashOfToken(token));
    const former = token;
    ({ token } = await trainingLink(engineer, panelistId, NOON));
    await expect(traineeByLink(former)).rejects.toMatchObject({ status: 404 });
    await expect(trainingLink(engineer, randomUUID(), NOON)).rejects.toMatchObject({ status: 404 });
    const stranger = await testEngineer('Somebody else');
    await expect(trainingLink(stranger, panelistId, NOON)).rejects.toMatchObject({ status: 404 });
    expect(await findPeople(engineer, 'ilk')).toEqual([{ id: panelistId, name: 'Ilka' }]);
    expect(await findPeople(stranger, 'ilk')).toEqual([]);
  });

  it('is offered no chain’s clip by name, and may begin on none', async () => {
    const { comparisonId, clipSetId, chainIds } = bank;
    const asked = JSON.stringify(await view());
    for (const { name } of await db().rows<{ name: string }>('SELECT name FROM chain')) {
      expect(asked).not.toContain(name);
    }
    const sound = {
      kind: 'clip' as const,
      comparisonId,
      clipSetId,
      chainId: chainIds[0]!,
      otherId: null,
    };
    await expect(beginSession(await who(), { ...LEVEL, sound }, NOON)).rejects.toMatchObject({
      status: 404,
    });
  });

  it('trains on a clip that was given, while no sitting over it is open', async () => {
    const { comparisonId, clipSetId, chainIds } = bank;
    await addSound(
      engineer,
      { comparisonId, clipSetId, chainId: chainIds[0]!, otherId: null, title: 'A verse' },
      NOON,
    );
    await expect(
      addSound(
        engineer,
        {
          comparisonId,
          clipSetId,
          chainId: chainIds[0]!,
          otherId: null,
          title: `the ${CHAIN_NAMES[0]!.toUpperCase()}`,
        },
        NOON,
      ),
    ).rejects.toThrow('name the music instead');
    const { sound } = (await view()).sounds[0]!;
    if (sound.kind !== 'given') throw new Error(sound.kind);
    await beginSession(await who(), { ...LEVEL, sound }, NOON);
    expect((await view()).open!.clips).toEqual([`/api/train/${token}/sounds/${sound.soundId}`]);
    expect((await givenSound(token, sound.soundId, false)).audioId).toEqual(expect.any(Number));

    const { sittingId } = await openTestSitting(engineer, comparisonId);
    expect((await view()).sounds).toEqual([]);
    await expect(givenSound(token, sound.soundId, false)).rejects.toThrow(
      'it rests until that is closed',
    );
    await expect(beginSession(await who(), { ...LEVEL, sound }, NOON)).rejects.toMatchObject({
      status: 409,
    });
    await closeSitting(engineer, comparisonId, sittingId, NOON);
    expect((await view()).sounds).toHaveLength(1);

    await removeSound(engineer, sound.soundId, NOON);
    await expect(givenSound(token, sound.soundId, false)).rejects.toMatchObject({ status: 404 });
    await expect(removeSound(engineer, sound.soundId, NOON)).rejects.toMatchObject({ status: 404 });
  });

  it('learns two chains by clips of both that were given', async () => {
    const { comparisonId, clipSetId, chainIds } = bank;
    const pair = { comparisonId, clipSetId, chainId: chainIds[0]!, otherId: chainIds[1]! };
    const title = 'Two of them';
    await expect(
      addSound(engineer, { ...pair, title, otherId: chainIds[0]! }, NOON),
    ).rejects.toThrow('two different chains');
    await expect(
      addSound(engineer, { ...pair, title, otherId: randomUUID() }, NOON),
    ).rejects.toMatchObject({ status: 404 });
    await addSound(engineer, { ...pair, title: 'One alone', otherId: null }, NOON);
    // Of two of the same moment nothing says which stands first.
    await addSound(engineer, { ...pair, title }, new Date(NOON.getTime() + 1));
    const [alone, both] = (await view()).sounds.map(({ sound }) => sound);
    if (alone?.kind !== 'given' || both?.kind !== 'given') throw new Error('not given');
    expect([alone.pair, both.pair]).toEqual([false, true]);

    const chains = { ...LEVEL, skill: 'chains' };
    await expect(
      beginSession(await who(), { ...chains, sound: { kind: 'made', sound: 'cello' } }, NOON),
    ).rejects.toThrow('clips of two chains');
    await expect(beginSession(await who(), { ...chains, sound: alone }, NOON)).rejects.toThrow(
      'clips of two chains',
    );
    // Nobody says of a clip that it is two.
    await expect(
      beginSession(await who(), { ...chains, sound: { ...alone, pair: true } }, NOON),
    ).rejects.toMatchObject({ status: 404 });
    await beginSession(await who(), { ...chains, sound: both }, NOON);
    const address = `/api/train/${token}/sounds/${both.soundId}`;
    expect((await view()).open!.clips).toEqual([address, `${address}?other=1`]);
    const [one, other] = await Promise.all(
      [false, true].map((second) => givenSound(token, both.soundId, second)),
    );
    const kept = await db().rows<{ id: number }>(
      `SELECT master_audio_id AS id FROM clip WHERE clip_set_id = $1 AND chain_id = ANY($2::uuid[])
       ORDER BY chain_id = $3 DESC`,
      [clipSetId, chainIds.slice(0, 2), chainIds[0]!],
    );
    expect([one!.audioId, other!.audioId]).toEqual(kept.map(({ id }) => id));
    await expect(givenSound(token, alone.soundId, true)).rejects.toMatchObject({ status: 404 });

    // Heard for another skill it is one clip.
    await beginSession(await who(), { ...LEVEL, sound: { ...both, pair: false } }, NOON);
    expect((await view()).open!.clips).toEqual([address]);
    expect((await earsOf(engineer, { q: '', sort: 'newest', page: 1 })).given).toMatchObject([
      { title: 'One alone', pair: false },
      { title, pair: true },
    ]);
    for (const { soundId } of [alone, both]) await removeSound(engineer, soundId, NOON);
  });

  it('is asked to take tests, which the studio sees; thresholds only if they agree', async () => {
    await addTest(engineer, { skill: 'band', choices: usualChoices(band), amount: 1 }, NOON);
    await expect(
      addTest(engineer, { skill: 'chains', choices: {}, amount: 0.5 }, NOON),
    ).rejects.toThrow('tested on one clip');
    await expect(
      addTest(engineer, { skill: 'band', choices: usualChoices(band), amount: 1 }, NOON),
    ).rejects.toThrow('has this test already');
    const { tests } = await view();
    expect(tests).toMatchObject([{ skill: 'band', amount: 1 }]);
    await beginSession(await who(), BAND_TEST, NOON);
    await walk(await who(), view, 0.5);
    await beginSession(await who(), LEVEL, new Date(NOON.getTime() + 60_000));
    await walk(await who(), view, 0.7);

    const { sittingId } = await openTestSitting(engineer, bank.comparisonId);
    await db().rows(
      `INSERT INTO listener (sitting_id, seat, alias, alias_key, consented_at, panelist_id)
       VALUES ($1, 1, 'Ilka', 'ilka', $2, $3)`,
      [sittingId, NOON, panelistId],
    );
    const told = async () => (await hearingOf(sittingId)).flatMap(({ says }) => says);
    expect(await told()).toEqual([
      expect.stringMatching(/^Boost and cut of a band, 3 kHz.*: 1\.0 dB: heard \(16 of 16 right/),
    ]);
    expect((await hearingOf(sittingId))[0]!.bands).toEqual([{ centreHz: 3000, leastDb: 1 }]);
    await shareWithPanel(await who(), true);
    expect(await told()).toHaveLength(2);
    await shareWithPanel(await who(), false);
    expect(await told()).toHaveLength(1);
    await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
    await removeTest(engineer, tests[0]!.id, NOON);
    expect((await view()).tests).toEqual([]);
  });

  it('is set beside others who agreed, where they are three or more', async () => {
    for (const [alias, least] of [
      ['Ona', 0.4],
      ['Pit', 0.7],
      ['Quin', 1.2],
    ] as const) {
      expect((await view()).panel).toEqual([]);
      const link = await trainingLink(engineer, await person(alias), NOON);
      const trainee = await traineeByLink(link.token);
      await shareWithPanel(trainee, true);
      await beginSession(trainee, LEVEL, NOON);
      await walk(
        trainee,
        async () => trainingOf(await traineeByLink(link.token), link.token),
        least,
      );
    }
    const [others] = (await view()).panel;
    expect(others).toMatchObject({ title: 'Level steps', people: 3 });
    const half = Number(/at (\d\.\d+) dB or less/.exec(others!.says)?.[1]);
    expect(Math.abs(half - 0.7)).toBeLessThan(0.2);
  });

  it('is forgotten with everything they trained', async () => {
    await forgetPanelist(engineer, panelistId, NOON);
    await expect(who()).rejects.toMatchObject({ status: 404 });
    const { left } = await one(
      db().rows<{ left: number }>(
        'SELECT count(*)::int AS left FROM ear_session WHERE panelist_id = $1',
        [panelistId],
      ),
    );
    expect(left).toBe(0);
  });
});
