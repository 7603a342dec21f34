import { pairAfter } from '@/core/design/adaptive';
import { canonicalJson, sha256Hex } from '@/core/design/seal';
import { listenerMinutes } from '@/core/design/time-budget';
import { TASKS } from '@/core/tasks';
import type { TaskId } from '@/core/tasks';
import { type Db, db, transaction, violatesUnique, type Tx } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { mayTry } from '@/platform/limits';
import { announce } from '@/platform/live';
import { freshToken, hashOfToken } from '@/platform/secret-link';
import type { CopyOrder } from '@/platform/send-copy';
import { freshSeed } from '@/platform/system-random';
import { one } from '@/platform/one';
import { looksForgotten } from '@/steps/sitting/alias';
import { endSelfTest } from '@/steps/sitting/service';
import { type ListenerGuess, namesPairs } from '@/steps/sitting/schema';
import { countSeats } from '@/steps/sitting/store';
import { type Answering, type Joining, type StageDone } from './schema';
import { answerSighted, sightedClips, sightedOf, sightedPart } from './sighted';
import { REFERENCE_WORD } from './reference-word';
import { type ListenerView, listenerView } from './views';
import {
  answerKeyAt,
  answersOf,
  askedPairs,
  chainIdsOf,
  chainsToGuess,
  clipAt,
  countAnswersAt,
  countListeners,
  countTold,
  type DeviceRow,
  findSeated,
  type HeardPart,
  type HeardSitting,
  type HeardTrial,
  type HeldForAnswer,
  holdForAnswer,
  holdForJoining,
  insertDevice,
  type ListenerRow,
  openedKey,
  partsOf,
  type RoomState,
  type Seated,
  seatOfDevices,
  seatOfPanelist,
  setLevelSet,
  trainingClipAt,
  trialsAt,
  witnessed,
} from './store';
import {
  countLevelChange,
  insertAnswer,
  insertListener,
  markFetched,
  markTold,
  replacePair,
  setPartsBegun,
  setStage,
} from '@/steps/sitting/seats';

/** Clips for setting the level and for the practice trial; words that no real trial uses. */
const TRAINING = [
  { word: 'Spool', address: 'settling-one', variant: 0 },
  { word: 'Tassel', address: 'settling-two', variant: 1 },
  { word: 'Trowel', address: 'settling-three', variant: 0 },
];
const LEAST_HEARD_S = 2;
const CLOSED = 'This sitting is closed; answers given before are kept. Thank you for listening.';

const FORGOTTEN =
  'You were forgotten here as you asked: your answers stay without a name, and no more are taken.';
const TOO_MANY_SEATS =
  'Too many seats were taken from this network just now; wait ten minutes, then try again.';

type Behind = Seated & { sitting: { seal: string } };

/** The sitting behind a link, and who asks for it. */
async function behind(from: Db, token: string, listenerToken: string | undefined): Promise<Behind> {
  const found = await findSeated(from, token, listenerToken ? hashOfToken(listenerToken) : null);
  if (!found || found.sitting.state === 'draft' || found.sitting.seal === null) {
    throw notFound('sitting');
  }
  if (found.invitee?.withdrawn) {
    throw new UserError(
      404,
      'This link was withdrawn; what you answered is kept. Ask the engineer for another.',
    );
  }
  if (found.listener?.forgotten) throw new UserError(404, FORGOTTEN);
  return { ...found, sitting: { ...found.sitting, seal: found.sitting.seal } };
}

export function leastHeardS(part: HeardPart): number {
  return Math.min(LEAST_HEARD_S, part.clipSeconds / 2);
}

/** By the bank's own clock, less than this nobody needs who listens: half as long again as hearing each at least. */
function hastyBelowS(part: HeardPart, clips: number): number {
  return 1.5 * clips * leastHeardS(part);
}

/** Clips under the words that a listener reads. */
export function worded(
  task: TaskId,
  clips: readonly { word: string; address: string }[],
): ListenerView['clips'] {
  return clips.map(({ word, address }, slot) => ({
    word: slot === 0 && TASKS[task].namesReference ? REFERENCE_WORD : word,
    address,
  }));
}

const trialSecondsOf = ({ task, clipSeconds, slots }: HeardPart) =>
  TASKS[task].seconds(clipSeconds, slots);

/** Minutes for what lies after these answers. */
export function minutesAfter(parts: readonly HeardPart[], answered: number): number {
  return (
    parts.reduce(
      (sum, part) =>
        sum + Math.max(0, part.to - Math.max(part.from - 1, answered)) * trialSecondsOf(part),
      0,
    ) / 60
  );
}

type PartView = ListenerView['part'];

/** What is asked at a position of a seat, in words for whoever may read it. */
export async function partViewOf(
  sittingId: string,
  seat: number,
  parts: readonly HeardPart[],
  part: HeardPart,
  answered: number,
  trial: HeardTrial | null,
  /** One more than there are where own pairs come again with names. */
  of = parts.length,
): Promise<PartView> {
  const learning = trial?.kind === 'learning';
  let learned: string[] = [];
  if (trial && TASKS[part.task].learns && !learning) {
    const first = await one(trialsAt(db(), sittingId, seat, part.from, part.from));
    learned = first.clips.map(({ word }) => word);
  }
  return {
    number: part.number,
    of,
    task: part.task,
    name: TASKS[part.task].name,
    shows: TASKS[part.task].shows,
    prompt: part.prompt,
    usual: part.prompt === TASKS[part.task].prompt,
    tiesAllowed: part.tiesAllowed,
    words: part.words,
    trials: part.to - part.from + 1,
    answered: Math.max(0, answered - part.from + 1),
    clipSeconds: part.clipSeconds,
    learning,
    learned,
    sighted: false,
  };
}

export const partAt = (parts: readonly HeardPart[], position: number) =>
  parts.find(({ to }) => position <= to) ?? parts[parts.length - 1]!;

interface Standing {
  phase: ListenerView['phase'];
  position: number;
  /** Trials that lie behind. */
  behind: number;
}

/** Where a listener at home stands: behind the answers that were given. */
function standingAlone(
  sitting: HeardSitting,
  listener: ListenerRow,
  { levelSet }: DeviceRow,
  parts: readonly HeardPart[],
  answered: number,
  /** How many pairs come again with names. */
  again: number,
): Standing {
  const trials = parts[parts.length - 1]!.to;
  const allBlind = answered >= trials;
  const position = allBlind ? trials + listener.sighted + 1 : answered + 1;
  const stand = (phase: Standing['phase']) => ({ phase, position, behind: answered });
  if (allBlind && (listener.sighted >= again || sitting.state === 'closed')) {
    return stand('finished');
  }
  if (sitting.state === 'closed') return stand('closed');
  // Another device sounds another way: the level is set on each.
  if (!levelSet) return stand('level');
  if (listener.stage !== 'trials') return stand(listener.stage);
  const number = allBlind ? parts.length + 1 : partAt(parts, answered + 1).number;
  return stand(listener.partsBegun < number ? 'part' : 'trial');
}

/** Where a listener in a room stands: where the room is. */
async function standingTogether(
  { roomPosition, roomStage, state }: RoomState,
  listener: ListenerRow,
  trials: number,
): Promise<Standing> {
  const stand = (phase: Standing['phase']) => ({
    phase,
    position: roomPosition,
    behind: Math.max(0, roomPosition - 1),
  });
  if (roomPosition > trials) return stand('finished');
  if (state === 'closed') return stand('closed');
  if (roomPosition === 0) {
    return stand(roomStage === 'practice' && listener.stage !== 'trials' ? 'practice' : 'waiting');
  }
  const given = await answerKeyAt(db(), listener.id, roomPosition);
  return stand(given === null ? 'trial' : 'waiting');
}

/** What is heard for the level, and in the practice of a task; nothing while people join. */
export function trainingClipsOf(
  stage: RoomState['roomStage'],
  task: TaskId,
): ListenerView['clips'] {
  if (stage === 'joining') return [];
  if (stage === 'level')
    return TRAINING.slice(0, 1).map(({ word, address }) => ({ word, address }));
  const { practiceClips } = TASKS[task];
  // One alone is another than the one that was heard for the level.
  return worded(task, TRAINING.slice(practiceClips === 1 ? 1 : 0, Math.max(2, practiceClips)));
}

/** Seconds for the pairs that come again with names, less those that lie behind. */
function sightedSeconds(
  { sightedTrials }: HeardSitting,
  parts: readonly HeardPart[],
  answered: number,
): number {
  const part = parts.find(namesPairs);
  return part ? Math.max(0, sightedTrials - answered) * trialSecondsOf(part) : 0;
}

function lengthsOf(sitting: HeardSitting, parts: readonly HeardPart[]): number[] {
  const blind = parts.map((one) => (one.to - one.from + 1) * trialSecondsOf(one));
  const again = sightedSeconds(sitting, parts, 0);
  return again > 0 ? [...blind, again] : blind;
}

/** Of how many parts, from the first, somebody may read their answers with the names before closing. */
async function partsTold(
  { id, reveal, room, purpose }: HeardSitting,
  parts: readonly HeardPart[],
  answered: number,
): Promise<number> {
  if (reveal !== 'after each part' || purpose === 'rehearsal') return 0;
  if (room === 'together') return countTold(db(), id);
  return parts.filter(({ to }) => to <= answered).length;
}

/** What this browser may know now. Built field by field; the shape refuses anything else. */
export async function viewFor(
  token: string,
  listenerToken: string | undefined,
): Promise<ListenerView> {
  const found = await behind(db(), token, listenerToken);
  const { sitting, invitee, device } = found;
  // What a seat's device may know is more than what its link alone tells.
  const listener = device ? found.listener : null;
  const answered = device ? found.answered : 0;
  const parts = await partsOf(db(), sitting.id);
  const trials = parts[parts.length - 1]!.to;
  const together = sitting.room === 'together';
  const again =
    listener && !together && answered >= trials
      ? await sightedOf(db(), sitting, listener.seat, parts)
      : [];
  let standing: Standing;
  if (listener && device) {
    standing = together
      ? await standingTogether(sitting, listener, trials)
      : standingAlone(sitting, listener, device, parts, answered, again.length);
  } else if (found.listener) {
    standing = { phase: sitting.state === 'closed' ? 'closed' : 'device', position: 1, behind: 0 };
  } else {
    const { taken, reserved } = await countSeats(db(), sitting.id);
    const free = invitee
      ? taken < sitting.seats
      : sitting.sharedLink && taken + reserved < sitting.seats;
    const phase = sitting.state === 'closed' ? 'closed' : free ? 'join' : 'full';
    standing = { phase, position: 1, behind: 0 };
  }
  const { phase, position, behind: done } = standing;
  const roomHeard = together && listener !== null && sitting.roomHeard;
  const sighted = position > trials ? (again[position - trials - 1] ?? null) : null;
  const part = sighted
    ? parts.find(({ number }) => number === sighted.part)!
    : partAt(parts, position);
  let trial: HeardTrial | null = null;
  let clips: ListenerView['clips'] = [];
  let comingAddresses: string[] = [];
  if (phase === 'level' || phase === 'practice') clips = trainingClipsOf(phase, part.task);
  if ((phase === 'part' || phase === 'trial') && sighted) {
    if (phase === 'trial') clips = await sightedClips(db(), sitting, sighted);
    const coming = phase === 'trial' ? again[position - trials] : sighted;
    comingAddresses = coming ? coming.clips.map(({ address }) => address) : [];
  } else if ((phase === 'part' || phase === 'trial') && listener) {
    const { seat } = listener;
    const [now, next] = await trialsAt(db(), sitting.id, seat, position, position + 1);
    trial = now ?? null;
    // Before a part begins its first clips are only loaded; in a room none ever is.
    if (phase === 'trial' && now) clips = worded(part.task, now.clips);
    const coming = phase === 'trial' ? next : now;
    comingAddresses = coming ? coming.clips.map(({ address }) => address) : [];
    if (together) comingAddresses = [];
  }
  if (together) clips = clips.map(({ word }) => ({ word, address: '' }));
  const seat = listener?.seat ?? 1;
  const of = parts.length + Number(sitting.sightedTrials > 0);
  const blind = await partViewOf(sitting.id, seat, parts, part, done, trial, of);
  const asked = sighted ? sightedPart(blind, again, listener?.sighted ?? 0) : blind;
  const settledIn = together || ['part', 'trial', 'finished'].includes(phase);
  return listenerView.parse({
    phase,
    room: sitting.room,
    roomStage: sitting.roomStage,
    roomHeard,
    position,
    title: sitting.title,
    simulated: sitting.simulated,
    purpose: sitting.purpose,
    seal: sitting.seal,
    alias: listener?.alias ?? null,
    invitedAs: listener ? null : (invitee?.alias ?? null),
    resetSound: sitting.resetSound,
    trials,
    answered,
    devices: listener?.devices ?? 0,
    receipt:
      listener && ['finished', 'closed'].includes(phase) && sitting.purpose !== 'rehearsal'
        ? await receiptOf(listener, answered)
        : null,
    keyOpen: listener !== null && sitting.state === 'closed' && sitting.reveal !== 'never',
    guessAmong:
      phase === 'join' && sitting.asksGuess
        ? (await chainsToGuess(db(), sitting.id)).map(({ name }) => name)
        : null,
    reveal: sitting.reveal,
    sighted: sitting.sightedTrials,
    partsTold: listener && device ? await partsTold(sitting, parts, answered) : 0,
    minutesLeft: settledIn
      ? minutesAfter(parts, done) + sightedSeconds(sitting, parts, listener?.sighted ?? 0) / 60
      : listenerMinutes(lengthsOf(sitting, parts)),
    part: {
      ...asked,
      learning: asked.learning || (phase === 'practice' && TASKS[part.task].learns),
    },
    leastHeardS: leastHeardS(part),
    clips,
    comingAddresses,
  });
}

/** What a listener keeps: that so many answers were given by then, and a number that stands for them all. */
async function receiptOf(
  { id, seat }: ListenerRow,
  answers: number,
): Promise<ListenerView['receipt']> {
  const given = await answersOf(db(), id);
  const told = given.map(({ position, answer: said }) => ({ position, answer: said }));
  return {
    seat,
    answers,
    lastAt: given.at(-1)?.answeredAt.toISOString() ?? null,
    answersSha256: await sha256Hex(canonicalJson(told)),
  };
}

/**
 * Whoever sits behind a link, where they are told the names once the sitting is closed, and of how many parts they may
 * read their own answers with the names before.
 */
export async function seatRevealed(token: string, listenerToken: string | undefined) {
  const { sitting, listener, answered } = await present(db(), token, listenerToken);
  if (sitting.reveal === 'never') {
    throw new UserError(
      403,
      'The names of this sitting are not given out; that was decided before it began. Your receipt keeps its seal.',
    );
  }
  const told = await partsTold(sitting, await partsOf(db(), sitting.id), answered);
  return { sitting, listener, told };
}

/** The key as it was sealed, for whoever has a seat, once the sitting is closed. */
export async function keyForListener(
  token: string,
  listenerToken: string | undefined,
): Promise<string> {
  const { sitting } = await seatRevealed(token, listenerToken);
  const key = await openedKey(db(), sitting.id);
  if (key === null) throw new UserError(409, 'The key is shut until the sitting is closed.');
  return key;
}

/** Where somebody joins from. */
export interface Arrival {
  /** The network place, for limits. */
  place: string;
  /** Secrets that this browser keeps of any seats. */
  seats: readonly string[];
}

async function limitJoining(sittingId: string, place: string): Promise<void> {
  if (!(await mayTry('joining', `${sittingId} ${place}`))) {
    throw new UserError(429, TOO_MANY_SEATS);
  }
}

/** What somebody expects, by ids; null where the sitting does not ask. */
async function guessOf(
  from: Db,
  { id, asksGuess }: HeardSitting,
  guess: Joining['guess'],
): Promise<ListenerGuess | null> {
  if (!asksGuess || !guess) return null;
  const { favourite, toldApart } = guess;
  const chain = favourite === null ? null : (await chainsToGuess(from, id))[favourite];
  if (chain === undefined) {
    throw new UserError(422, 'That chain is not among those of this sitting; choose again.');
  }
  return { favouriteChainId: chain && chain.id, toldApart };
}

/** Takes a seat. @returns the secret for the listener's cookie */
export async function join(
  token: string,
  joining: Joining,
  { place, seats: others }: Arrival,
  at: Date,
): Promise<string> {
  const listenerToken = freshToken();
  const { sitting, invitee } = await behind(db(), token, undefined);
  await limitJoining(sitting.id, place);
  if (looksForgotten(joining.alias)) {
    throw new UserError(409, 'This name stands for somebody who was forgotten; choose another.');
  }
  await transaction(async (tx) => {
    if ((await holdForJoining(tx, sitting.id)) !== 'open') throw new UserError(409, CLOSED);
    if (!invitee && !sitting.sharedLink) {
      throw new UserError(
        409,
        'This link takes nobody new any more; ask the engineer for one of your own.',
      );
    }
    const before = await seatOfDevices(tx, sitting.id, others.map(hashOfToken));
    if (before?.forgotten) throw new UserError(409, FORGOTTEN);
    if (invitee && (await seatOfPanelist(tx, sitting.id, invitee.panelistId))) {
      throw new UserError(409, 'You have a seat by this link already; reload to go on with it.');
    }
    const seats = await countSeats(tx, sitting.id);
    if (seats.taken + (invitee ? 0 : seats.reserved) >= sitting.seats) {
      throw new UserError(
        409,
        'All seats of this sitting are taken; ask the engineer for another.',
      );
    }
    const listenerId = await insertListener(
      tx,
      {
        sittingId: sitting.id,
        seat: seats.next,
        alias: joining.alias,
        playback: joining.playback,
        simulated: false,
        panelistId: invitee?.panelistId ?? null,
        sameAsSeat: before?.seat ?? null,
        guess: await guessOf(tx, sitting, joining.guess),
      },
      at,
    ).catch((error: unknown) => {
      if (violatesUnique(error, 'listener_alias')) {
        throw new UserError(
          409,
          `“${joining.alias}” is taken in this sitting, or looks like a name that is; choose another.`,
        );
      }
      throw error;
    });
    await insertDevice(tx, listenerId, hashOfToken(listenerToken), at);
    await announce(tx, sitting.comparisonId);
  });
  return listenerToken;
}

/**
 * Opens a seat on one more device, by the link that it belongs to. It is counted, the listener is told of it, and
 * the level is set anew. @returns the secret for this device's cookie
 */
export async function addDevice(token: string, { place }: Arrival, at: Date): Promise<string> {
  const listenerToken = freshToken();
  const { sitting, invitee, listener } = await behind(db(), token, undefined);
  if (!invitee || !listener) throw notFound('seat');
  await limitJoining(sitting.id, place);
  await transaction(async (tx) => {
    if ((await holdForJoining(tx, sitting.id)) !== 'open') throw new UserError(409, CLOSED);
    await insertDevice(tx, listener.id, hashOfToken(listenerToken), at);
    await announce(tx, sitting.comparisonId);
  });
  return listenerToken;
}

async function present(from: Db, token: string, listenerToken: string | undefined) {
  const { listener, device, ...found } = await behind(from, token, listenerToken);
  if (!listener || !device || !listenerToken) {
    throw new UserError(
      401,
      'This browser has no seat in the sitting; open the link again to join.',
    );
  }
  return { ...found, listener, device, tokenHash: hashOfToken(listenerToken) };
}

/** Level set, practice done, or a part begun: on to the next; never back. */
export async function finishStage(
  token: string,
  listenerToken: string | undefined,
  done: StageDone,
): Promise<void> {
  const { sitting, listener, tokenHash } = await present(db(), token, listenerToken);
  if (sitting.room === 'together') {
    // The room leads; of its phones each only tells that it has practised.
    if (done.stage === 'practice' && sitting.roomHeard) await setStage(db(), listener.id, 'trials');
    return;
  }
  if (done.stage === 'level') await setLevelSet(db(), tokenHash);
  if (done.stage === 'level-changed') await countLevelChange(db(), listener.id);
  else if (done.stage === 'part') {
    if (listener.stage === 'trials' && done.part === listener.partsBegun + 1) {
      await setPartsBegun(db(), listener.id, done.part);
    }
  } else if (listener.stage === done.stage) {
    await setStage(db(), listener.id, done.stage === 'level' ? 'practice' : 'trials');
    // What the first part asks was just practised.
    if (done.stage === 'practice') await setPartsBegun(db(), listener.id, 1);
  }
}

/** Refuses an answer that does not fit its trial, or comes before everything was heard. */
async function refuseUnfit(
  tx: Tx,
  sitting: HeardSitting,
  trial: HeardTrial,
  given: Answering,
): Promise<HeardPart> {
  const part = (await partsOf(tx, sitting.id)).find(({ number }) => number === trial.part);
  if (!part) throw notFound('part');
  const { kind, clips } = trial;
  const { tiesAllowed, words } = part;
  const refused = TASKS[part.task].refusal(given.answer, {
    kind,
    slots: clips.length,
    tiesAllowed,
    words,
  });
  if (refused) throw new UserError(422, refused);
  if (sitting.room === 'together') return part;
  const least = leastHeardS(part) * 0.95;
  if (given.heardS.length !== clips.length || given.heardS.some((heard) => heard < least)) {
    throw new UserError(
      422,
      clips.length > 1
        ? 'Hear every recording before you answer.'
        : 'Hear the recording before you answer.',
    );
  }
  return part;
}

/**
 * Chooses the pair after the next, from what this listener said in the part so far. The next one is loaded
 * already, so it stays. Trials that are no judgements (controls) keep what was drawn.
 */
async function adapt(
  tx: Tx,
  sittingId: string,
  seat: number,
  part: HeardPart & { adaptiveSeed: number },
  answered: number,
): Promise<void> {
  const asked = await askedPairs(tx, sittingId, seat, part.number);
  const chains = await chainIdsOf(tx, part.clipSetId);
  const pair = pairAfter(chains, asked, answered, { seat, seed: part.adaptiveSeed });
  if (pair) await replacePair(tx, { sittingId, seat, position: answered + 2 }, pair);
}

/** Somebody finished a part whose names are told then; in a room once nobody who sits there is still to answer. */
async function tellPart(
  tx: Tx,
  { id, room }: HeardSitting,
  { number, to }: HeardPart,
  at: Date,
): Promise<void> {
  if (room === 'together') {
    const joined = await countListeners(tx, id);
    if ((await countAnswersAt(tx, id, to)) < joined) return;
  }
  await markTold(tx, id, number, at);
}

/** Seconds since a room came to its trial; null where that was not kept. */
function sinceRoomBegan({ roomBeganAt }: HeldForAnswer, at: Date): number | null {
  return roomBeganAt === null ? null : Math.max(0, (at.getTime() - roomBeganAt.getTime()) / 1000);
}

const roomHeardS = ({ roomHeardS: heard }: HeldForAnswer, clips: number): number[] =>
  heard?.length === clips ? heard : Array.from({ length: clips }, () => 0);

/**
 * Keeps an answer once. The same answer again is acknowledged again; another one to the same trial,
 * or one out of turn, is refused and changes nothing.
 */
export async function answer(
  token: string,
  listenerToken: string | undefined,
  given: Answering,
  at: Date,
): Promise<void> {
  await transaction(async (tx) => {
    const { sitting, listener, device } = await present(tx, token, listenerToken);
    const held = await holdForAnswer(tx, sitting.id, listener.id, given.position);
    const parts = await partsOf(tx, sitting.id);
    const trials = parts[parts.length - 1]!.to;
    if (given.position > trials && sitting.sightedTrials > 0) {
      const open = held.state === 'open' && held.answered >= trials && device.levelSet;
      const leastS = (one: HeardPart) => leastHeardS(one) * 0.95;
      const terms = { blind: trials, open, leastS };
      await answerSighted(tx, sitting, listener, parts, given, terms, at);
      return;
    }
    if (held.keyThere !== null) {
      if (held.keyThere === given.key) return;
      throw new UserError(409, 'This trial is answered already; the first answer stands.');
    }
    if (held.state !== 'open') throw new UserError(409, CLOSED);
    const next = sitting.room === 'together' ? held.roomPosition : held.answered + 1;
    const [trial] = await trialsAt(tx, sitting.id, listener.seat, next, next);
    const open =
      sitting.room === 'together'
        ? held.roomHeard
        : device.levelSet &&
          listener.stage === 'trials' &&
          trial &&
          trial.part <= listener.partsBegun;
    if (given.position !== next || !trial || !open) {
      throw new UserError(409, 'This is not the trial to answer now; reload to see the right one.');
    }
    const part = await refuseUnfit(tx, sitting, trial, given);
    const place = { listenerId: listener.id, sittingId: sitting.id, seat: listener.seat };
    const together = sitting.room === 'together';
    const seen = together
      ? { serverS: sinceRoomBegan(held, at), unfetched: false }
      : await witnessed(tx, place, given.position, at);
    // Phones of a room play nothing: what was heard, and for how long, the conductor's player tells.
    const heard = together
      ? { heardS: roomHeardS(held, trial.clips.length), durationS: seen.serverS ?? 0 }
      : {};
    const hasty = seen.serverS !== null && seen.serverS < hastyBelowS(part, trial.clips.length);
    if (!(await insertAnswer(tx, place, { ...given, ...heard, ...seen, hasty }, at))) {
      // Two copies at once, or a key used before: only the very same answer counts as kept.
      if ((await answerKeyAt(tx, listener.id, given.position)) === given.key) return;
      throw new UserError(409, 'This answer was not kept; reload and answer again.');
    }
    const { adaptiveSeed } = part;
    if (adaptiveSeed !== null) {
      await adapt(tx, sitting.id, listener.seat, { ...part, adaptiveSeed }, given.position);
    }
    if (sitting.reveal === 'after each part' && given.position === part.to) {
      await tellPart(tx, sitting, part, at);
    }
    if (sitting.purpose === 'self-test' && given.position === trials) {
      await endSelfTest(tx, sitting.id, at);
    }
    await announce(tx, sitting.comparisonId);
  });
}

/** A copy to send, whom it is made for, and what is noted once it was sent. */
export interface Served {
  order: CopyOrder;
  /** One copy at a time is made for each. */
  who: string;
  sent: (at: Date) => Promise<void>;
}

/** The made-up phrase behind an address; null where it means a clip of a trial. */
export async function trainingServed(
  { id, trainingSound }: Pick<HeardSitting, 'id' | 'trainingSound'>,
  address: string,
  who: string,
): Promise<Served | null> {
  const training = TRAINING.find((clip) => clip.address === address);
  if (!training) return null;
  const { clipSetId } = await one(partsOf(db(), id));
  const audioId = await trainingClipAt(db(), clipSetId, trainingSound, training.variant);
  if (audioId === null) throw notFound('clip');
  const seeds = { trial: freshSeed(), clip: freshSeed() };
  const order = { audioId, seeds, levelLufs: null, gainDb: 0 };
  return { order, who, sent: () => Promise.resolve() };
}

/** The trial of an address, if it is of a pair that comes again with names now or next. */
async function sightedPosition(
  sitting: HeardSitting,
  { seat, sighted }: ListenerRow,
  answered: number,
  address: string,
): Promise<number | null> {
  const parts = await partsOf(db(), sitting.id);
  if (answered < parts[parts.length - 1]!.to) return null;
  const now = (await sightedOf(db(), sitting, seat, parts)).slice(sighted, sighted + 2);
  const found = now.find(({ clips }) => clips.some((clip) => clip.address === address));
  return found?.position ?? null;
}

/** Which stored clip an address means for this listener now; addresses of other trials are unknown. */
export async function clipFor(
  token: string,
  listenerToken: string | undefined,
  address: string,
): Promise<Served> {
  const { sitting, listener, device, answered } = await present(db(), token, listenerToken);
  const training = await trainingServed(sitting, address, listener.id);
  if (training) return training;
  const open = sitting.state === 'open' && listener.stage === 'trials' && device.levelSet;
  const at = (from: number, to: number) =>
    clipAt(db(), sitting.id, listener.seat, address, from, to);
  let found = open ? await at(answered + 1, answered + 2) : null;
  if (open && !found && sitting.sightedTrials > 0) {
    const position = await sightedPosition(sitting, listener, answered, address);
    found = position === null ? null : await at(position, position);
  }
  if (!found) throw notFound('clip');
  const place = { sittingId: sitting.id, seat: listener.seat, ...found.place };
  return { order: found.order, who: listener.id, sent: (at) => markFetched(db(), place, at) };
}
