import { amountAt, placeOf } from '@/core/ears/axis';
import { MADE_SOUNDS } from '@/core/ears/made-sounds';
import {
  type Outcome,
  outcomeOf,
  type Said,
  saidOf,
  saidText,
  shownAmount,
} from '@/core/ears/outcome';
import { judgedOf, type SessionPlan, standingOf, trialsOf } from '@/core/ears/session';
import { sizeText } from '@/core/ears/skill';
import { fits, skillOf, toldSkill } from '@/core/ears/skills';
import { medianOf } from '@/core/statistics/percentile';
import { db, transaction } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { LIST_PAGE, pageWithin } from '@/platform/list-query';
import { freshToken, hashOfToken } from '@/platform/secret-link';
import type { SignedIn } from '@/platform/sign-in/service';
import { systemRandom } from '@/platform/system-random';
import { namesOfPanel } from '@/steps/panel/store';
import type {
  AmongPanel,
  EarAnswer,
  EarsQuery,
  EarsView,
  EarSound,
  OpenSession,
  PastSession,
  SessionDraft,
  SoundDraft,
  TestDraft,
  Training,
} from './schema';
import {
  agreedSessions,
  endOpenSessions,
  endSession,
  givenSounds,
  hasClip,
  insertEarAnswer,
  insertSession,
  insertSound,
  insertTest,
  lockSession,
  matchedSets,
  type PanelTrainee,
  putLink,
  type SessionRow,
  sessionsOf,
  setShares,
  tellingNames,
  testsOf,
  type Trainee,
  traineeOf,
  withdraw,
} from './store';

/** Sessions that are shown where one begins. */
const MOST_SHOWN = 12;
/** Sessions that are looked back at; older ones stay in the bank. */
const MOST_PAST = 200;
const MOST_SETS = 40;
/** Sessions of the panel that are set beside one's own. */
const MOST_PANEL = 2000;
/** Fewer could be told from each other. */
const FEWEST_OTHERS = 3;

export const traineeOfEngineer = ({ studioId, accountId }: SignedIn): Trainee => ({
  ownerId: studioId,
  accountId,
  panelistId: null,
});

/** Who trains by this link. @throws UserError (404) */
export async function traineeByLink(token: string): Promise<PanelTrainee> {
  const trainee = await traineeOf(db(), hashOfToken(token));
  if (!trainee) throw notFound('training');
  return trainee;
}

/** A stored session as the core reads it; null for a skill that this version does not know. */
export function planOf({
  skill: id,
  choices,
  amount,
  seed,
}: Pick<SessionRow, 'skill' | 'choices' | 'amount' | 'seed'>): SessionPlan | null {
  const skill = skillOf(id);
  return skill && fits(skill, choices) ? { skill, choices, amount, seed } : null;
}

/** What a session that is over came to; null for a skill that this version does not know. */
export function readSession(row: SessionRow): { plan: SessionPlan; outcome: Outcome } | null {
  const plan = planOf(row);
  if (!plan) return null;
  return { plan, outcome: outcomeOf(plan, judgedOf(plan, row.answers)) };
}

/** What a made-up sound, a clip or a given sound is called where it was trained on. */
function onWhat(
  sound: EarSound,
  titles: ReadonlyMap<string, string>,
): Pick<PastSession, 'on' | 'made'> {
  if (sound.kind === 'made') return { on: MADE_SOUNDS[sound.sound], made: sound.sound };
  const title = titles.get(sound.kind === 'clip' ? sound.clipSetId : sound.soundId);
  return { on: title ?? 'a clip', made: title === undefined ? 'clip' : null };
}

/** A threshold that was shown, for a picture. */
function shownOf(said: Said): PastSession['shown'] {
  if (said.kind === 'smallest') return { amount: said.size, from: said.size, to: said.size };
  if (said.kind !== 'threshold') return null;
  return { amount: said.size, from: said.low.size, to: said.high.size };
}

function pastOf(row: SessionRow, titles: ReadonlyMap<string, string>): PastSession | null {
  const read = readSession(row);
  if (!read || row.endedAt === null) return null;
  const { plan, outcome } = read;
  const said = saidOf(plan, outcome);
  return {
    id: row.id,
    at: row.begunAt.toISOString(),
    skill: row.skill,
    choices: row.choices,
    title: toldSkill(plan.skill, plan.choices),
    ...onWhat(row.sound, titles),
    test: plan.amount !== null,
    said,
    says: saidText(plan.skill, said),
    shown: shownOf(said),
    scale: plan.skill.axis.scale,
    unit: plan.skill.unit,
  };
}

type Clips = Pick<SoundDraft, 'comparisonId' | 'clipSetId' | 'chainId' | 'otherId'>;

const chainsOf = ({ chainId, otherId }: Pick<Clips, 'chainId' | 'otherId'>): string[] => [
  chainId,
  ...(otherId === null ? [] : [otherId]),
];

/** @throws UserError for a clip that the viewer has not, or for one that is given as two */
async function refuseNoClips(viewerId: string, clips: Clips): Promise<void> {
  for (const chainId of chainsOf(clips)) {
    if (!(await hasClip(db(), viewerId, { ...clips, chainId }))) throw notFound('clip');
  }
  if (clips.otherId === clips.chainId)
    throw new UserError(400, 'Choose clips of two different chains.');
}

/** Addresses of the clips of a session. */
function clipsOf(sound: EarSound, token: string | null): string[] {
  if (sound.kind === 'made') return [];
  if (sound.kind === 'given') {
    const address = `/api/train/${token ?? ''}/sounds/${sound.soundId}`;
    return sound.pair ? [address, `${address}?other=1`] : [address];
  }
  const { comparisonId, clipSetId } = sound;
  return chainsOf(sound).map(
    (chain) => `/api/comparisons/${comparisonId}/clips/${clipSetId}/${chain}`,
  );
}

function openOf(row: SessionRow, token: string | null): OpenSession {
  const { id, skill, choices, amount, seed, sound, answers } = row;
  return { id, skill, choices, amount, seed, sound, answers, clips: clipsOf(sound, token) };
}

/**
 * Half of those of the panel who let it be seen hear it at so much or less, skill by skill; only where there are some.
 * Whoever was not shown to hear it counts as above all sizes.
 */
async function amongPanelOf({ ownerId, panelistId }: Trainee): Promise<AmongPanel[]> {
  const rows = await agreedSessions(db(), ownerId, MOST_PANEL);
  const bySkill = new Map<string, { plan: SessionPlan; latest: Map<string, number> }>();
  for (const row of rows) {
    const plan = planOf(row);
    if (!plan || plan.amount !== null || row.panelistId === panelistId) continue;
    const title = toldSkill(plan.skill, plan.choices);
    // The newest of each counts; older ones are not worked out.
    if (bySkill.get(title)?.latest.has(row.panelistId)) continue;
    const read = readSession(row);
    if (read?.outcome.kind !== 'threshold') continue;
    const entry = bySkill.get(title) ?? { plan, latest: new Map<string, number>() };
    bySkill.set(title, entry);
    const amount = shownAmount(read.plan, read.outcome);
    const place = amount === null ? Infinity : placeOf(read.plan.skill.axis, amount);
    entry.latest.set(row.panelistId, place);
  }
  return [...bySkill].flatMap(([title, { plan, latest }]) => {
    const { skill, choices } = plan;
    if (latest.size < FEWEST_OTHERS) return [];
    const middle = medianOf([...latest.values()]);
    const amount = Number.isFinite(middle) ? amountAt(skill.axis, middle) : null;
    return [
      {
        skill: skill.id,
        choices,
        title,
        people: latest.size,
        amount,
        says:
          amount === null
            ? `Of ${latest.size} others of the panel fewer than half were shown to hear it.`
            : `Half of ${latest.size} others of the panel hear it at ${sizeText(skill, amount)} or less.`,
      },
    ];
  });
}

/** All that the page of whoever trains shows. @param token of the link of somebody of the panel */
export async function trainingOf(
  trainee: Trainee & Partial<Pick<PanelTrainee, 'alias' | 'shares'>>,
  token: string | null = null,
  most = MOST_SHOWN,
): Promise<Training> {
  const rows = await sessionsOf(db(), trainee, most + 1);
  const given = await givenSounds(db(), trainee.ownerId);
  const sets =
    trainee.accountId === null ? [] : await matchedSets(db(), trainee.accountId, MOST_SETS);
  const titles = new Map([
    ...given.map(({ id, title }) => [id, title] as const),
    ...sets.map((set) => [set.clipSetId, `${set.source}, ${set.passage}`] as const),
  ]);
  const open = rows.find(({ endedAt }) => endedAt === null);
  return {
    alias: trainee.alias ?? null,
    shares: trainee.shares ?? false,
    open: open && planOf(open) ? openOf(open, token) : null,
    past: rows.flatMap((row) => pastOf(row, titles) ?? []),
    panel: await amongPanelOf(trainee),
    tests: (await testsOf(db(), trainee.ownerId)).filter((test) => planOf({ ...test, seed: 0 })),
    sounds:
      trainee.accountId === null
        ? given
            .filter(({ shut }) => !shut)
            .map(({ id, title, otherAudioId }) => ({
              title,
              sound: { kind: 'given' as const, soundId: id, pair: otherAudioId !== null },
            }))
        : sets.flatMap(({ comparisonId, clipSetId, comparison, source, passage, chains }) =>
            chains.map(({ id, name }) => ({
              title: `${comparison} · ${source}, ${passage} · ${name}`,
              sound: { kind: 'clip' as const, comparisonId, clipSetId, chainId: id, otherId: null },
            })),
          ),
  };
}

/** What an engineer sees of training: a page of their own sessions, and what the panel was given. */
export async function earsOf(engineer: SignedIn, query: EarsQuery): Promise<EarsView> {
  const trainee = traineeOfEngineer(engineer);
  const { open, past, panel, tests, sounds } = await trainingOf(trainee, null, MOST_PAST);
  const page = pageWithin(query.page, past.length);
  const from = (page - 1) * LIST_PAGE;
  const given = await givenSounds(db(), engineer.studioId);
  return {
    query: { ...query, page },
    found: past.length,
    andOlder: past.length >= MOST_PAST,
    goesOn: open !== null,
    rows: past.slice(from, from + LIST_PAGE),
    progress: past.flatMap(({ at, title, shown, scale, unit }) =>
      shown ? [{ at, title, ...shown, scale, unit }] : [],
    ),
    panel,
    tests: tests.map(({ id, skill: skillId, choices, amount }) => {
      const skill = skillOf(skillId)!;
      return { id, title: `${sizeText(skill, amount)}: ${toldSkill(skill, choices)}` };
    }),
    given: given.map(({ id, title, shut, otherAudioId }) => ({
      id,
      title,
      pair: otherAudioId !== null,
      shut,
    })),
    clips: sounds,
  };
}

/** @throws UserError for what is no skill, no choice of it, or a size that it cannot have */
function refuseOdd({ skill: id, choices, amount }: Omit<SessionDraft, 'sound'>): SessionPlan {
  const skill = skillOf(id);
  if (!skill || !fits(skill, choices)) throw new UserError(400, 'Choose what to train.');
  if (amount !== null) {
    const place = placeOf(skill.axis, amount);
    if (!(place >= 0 && place <= 1)) {
      const [least, most] = [skill.axis.hardest, skill.axis.easiest].map((size) =>
        sizeText(skill, size),
      );
      throw new UserError(400, `A test of this is from ${least!} to ${most!}.`);
    }
  }
  return { skill, choices, amount, seed: 0 };
}

async function refuseUnheard(
  { ownerId, accountId }: Trainee,
  { skill }: SessionPlan,
  sound: EarSound,
): Promise<void> {
  const two = sound.kind === 'given' ? sound.pair : sound.kind === 'clip' && sound.otherId !== null;
  if (skill.clips === 2 && !two)
    throw new UserError(400, 'Choose clips of two chains: the way from one to the other is heard.');
  if (sound.kind === 'made') return;
  if (sound.kind === 'given') {
    const given = await givenSounds(db(), ownerId);
    const own = given.find(({ id }) => id === sound.soundId);
    if (!own || (sound.pair && own.otherAudioId === null)) throw notFound('sound');
    if (own.shut) throw new UserError(409, SHUT);
    return;
  }
  // Clips of chains are the studio's own business; the panel has what it was given.
  if (accountId === null) throw notFound('clip');
  await refuseNoClips(accountId, sound);
}

const SHUT =
  'A sitting over this sound is open, so it rests until that is closed; choose another sound.';

/** Begins a session; one that was open ends, and keeps its answers. */
export async function beginSession(trainee: Trainee, draft: SessionDraft, at: Date): Promise<void> {
  await refuseUnheard(trainee, refuseOdd(draft), draft.sound);
  const seed = Math.floor(systemRandom().uniform() * 2 ** 32);
  await transaction(async (tx) => {
    await endOpenSessions(tx, trainee, at);
    await insertSession(tx, trainee, draft, seed, at);
  });
}

/** Takes an answer once; the last one ends the session. @throws UserError for one that is not next */
export async function answerTrial(trainee: Trainee, answer: EarAnswer, at: Date): Promise<void> {
  await transaction(async (tx) => {
    const session = await lockSession(tx, trainee, answer.sessionId);
    if (!session) throw notFound('session');
    const given = session.answers.length;
    // Sent again after a lost reply.
    if (answer.position < given) return;
    if (session.endedAt !== null)
      throw new UserError(409, 'This session is over; its answers are kept.');
    if (answer.position > given)
      throw new UserError(409, 'An answer before this one is missing; reload the page and go on.');
    const plan = planOf(session);
    const next = plan && standingOf(plan, session.answers).next;
    if (!next) throw new UserError(409, 'This session cannot be gone on with; begin another.');
    await insertEarAnswer(tx, answer, next.place, at);
    if (given + 1 >= trialsOf(session)) await endSession(tx, answer.sessionId, at);
  });
}

export async function endTraining(trainee: Trainee, sessionId: string, at: Date): Promise<void> {
  await transaction(async (tx) => {
    if (!(await lockSession(tx, trainee, sessionId))) throw notFound('session');
    await endSession(tx, sessionId, at);
  });
}

export async function shareWithPanel(trainee: PanelTrainee, shares: boolean): Promise<void> {
  await setShares(db(), trainee.panelistId, shares);
}

/**
 * The master of a sound that the panel was given, or of the other chain that was given with it.
 * @throws UserError while a sitting over it is open
 */
export async function givenSound(
  token: string,
  soundId: string,
  other: boolean,
): Promise<{ audioId: number }> {
  const { ownerId } = await traineeByLink(token);
  const own = (await givenSounds(db(), ownerId)).find(({ id }) => id === soundId);
  const audioId = other ? own?.otherAudioId : own?.audioId;
  if (!own || !audioId) throw notFound('sound');
  if (own.shut) throw new UserError(409, SHUT);
  return { audioId };
}

export async function addTest({ studioId }: SignedIn, draft: TestDraft, at: Date): Promise<void> {
  const { skill } = refuseOdd(draft);
  if (skill.clips === 2)
    throw new UserError(400, 'The panel is tested on one clip; choose another skill.');
  const title = toldSkill(skill, draft.choices);
  for (const known of await testsOf(db(), studioId)) {
    const plan = known.amount === draft.amount ? planOf({ ...known, seed: 0 }) : null;
    if (plan && toldSkill(plan.skill, plan.choices) === title)
      throw new UserError(409, 'The panel has this test already.');
  }
  await insertTest(db(), studioId, draft, at);
}

export async function removeTest({ studioId }: SignedIn, id: string, at: Date): Promise<void> {
  if (!(await withdraw(db(), 'ear_test', studioId, id, at))) throw notFound('test');
}

export async function addSound(
  { studioId, accountId }: SignedIn,
  draft: SoundDraft,
  at: Date,
): Promise<void> {
  await refuseNoClips(accountId, draft);
  const title = draft.title.toLocaleLowerCase();
  const told = (await tellingNames(db(), draft.comparisonId)).find((name) =>
    title.includes(name.toLocaleLowerCase()),
  );
  if (told !== undefined)
    throw new UserError(400, `This title tells the panel of “${told}”; name the music instead.`);
  await insertSound(db(), studioId, draft, at);
}

export async function removeSound({ studioId }: SignedIn, id: string, at: Date): Promise<void> {
  if (!(await withdraw(db(), 'ear_sound', studioId, id, at))) throw notFound('sound');
}

/** People of the panel whose names hold a text. */
export async function findPeople(
  { studioId }: SignedIn,
  q: string,
): Promise<{ id: string; name: string }[]> {
  return namesOfPanel(db(), studioId, q, []);
}

/** A link by which somebody of the panel trains, in place of the one before; its secret is told this once. */
export async function trainingLink(
  { studioId }: SignedIn,
  panelistId: string,
  at: Date,
): Promise<{ token: string }> {
  const token = freshToken();
  if (!(await putLink(db(), studioId, panelistId, hashOfToken(token), at)))
    throw notFound('person');
  return { token };
}
