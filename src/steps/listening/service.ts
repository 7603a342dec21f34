import { createHash, randomBytes } from 'node:crypto';
import { listenerMinutes, pairTrialSeconds } from '@/core/design/time-budget';
import { hash32 } from '@/core/signal/random';
import { type Db, db, transaction, violatesUnique } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { announce } from '@/platform/live';
import { type Answering, type Joining, type ListenerView, listenerView } from './schema';
import {
  answerKeyAt,
  clipAt,
  countAnswers,
  countListeners,
  findByToken,
  findListener,
  type HeardSitting,
  holdSitting,
  insertAnswer,
  insertListener,
  type ListenerRow,
  setStage,
  settlingClipAt,
  trialsAt,
} from './store';

/** Clips of the practice trial; words that no real trial uses. */
const SETTLING = [
  { word: 'Spool', address: 'settling-one' },
  { word: 'Tassel', address: 'settling-two' },
];
const LEAST_HEARD_S = 2;
const CLOSED = 'This sitting is closed; answers given before are kept. Thank you for listening.';

function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}

async function sittingBehind(from: Db, token: string): Promise<HeardSitting & { seal: string }> {
  const sitting = await findByToken(from, token);
  if (!sitting || sitting.state === 'draft' || sitting.seal === null) throw notFound('sitting');
  return { ...sitting, seal: sitting.seal };
}

function leastHeardS(sitting: HeardSitting): number {
  return Math.min(LEAST_HEARD_S, sitting.clipSeconds / 2);
}

async function listenerBehind(
  from: Db,
  sitting: HeardSitting,
  listenerToken: string | undefined,
): Promise<ListenerRow | null> {
  return listenerToken ? findListener(from, sitting.id, hashOf(listenerToken)) : null;
}

/** What this browser may know now. Built field by field; the shape refuses anything else. */
export async function viewFor(
  token: string,
  listenerToken: string | undefined,
): Promise<ListenerView> {
  const sitting = await sittingBehind(db(), token);
  const listener = await listenerBehind(db(), sitting, listenerToken);
  const answered = listener ? await countAnswers(db(), listener.id) : 0;
  const { trialsPerListener: trials, clipSeconds } = sitting;
  let phase: ListenerView['phase'];
  if (listener && answered >= trials) phase = 'finished';
  else if (sitting.state === 'closed') phase = 'closed';
  else if (listener) phase = listener.stage === 'trials' ? 'trial' : listener.stage;
  else phase = (await countListeners(db(), sitting.id)) < sitting.seats ? 'join' : 'full';
  let clips: ListenerView['clips'] = [];
  let comingAddresses: string[] = [];
  if (phase === 'level' || phase === 'practice') {
    clips = phase === 'level' ? SETTLING.slice(0, 1) : SETTLING;
  } else if (phase === 'trial' && listener) {
    const [now, next] = await trialsAt(db(), sitting.id, listener.seat, answered + 1, answered + 2);
    clips = [
      { word: now.firstWord, address: now.firstAddress },
      { word: now.secondWord, address: now.secondAddress },
    ];
    comingAddresses = next ? [next.firstAddress, next.secondAddress] : [];
  }
  const settledIn = phase === 'trial' || phase === 'finished';
  return listenerView.parse({
    phase,
    title: sitting.title,
    prompt: sitting.prompt,
    tiesAllowed: sitting.tiesAllowed,
    simulated: sitting.simulated,
    seal: sitting.seal,
    alias: listener?.alias ?? null,
    trials,
    answered,
    minutesLeft: settledIn
      ? ((trials - answered) * pairTrialSeconds(clipSeconds)) / 60
      : listenerMinutes(trials, clipSeconds),
    clipSeconds,
    leastHeardS: leastHeardS(sitting),
    clips,
    comingAddresses,
  });
}

/** Takes a seat. @returns the secret for the listener's cookie */
export async function join(token: string, joining: Joining, at: Date): Promise<string> {
  const listenerToken = randomBytes(24).toString('base64url');
  const sitting = await sittingBehind(db(), token);
  await transaction(async (tx) => {
    const state = await holdSitting(tx, sitting.id, 'join');
    if (state !== 'open') throw new UserError(409, CLOSED);
    const taken = await countListeners(tx, sitting.id);
    if (taken >= sitting.seats) {
      throw new UserError(
        409,
        'All seats of this sitting are taken; ask the engineer for another.',
      );
    }
    await insertListener(
      tx,
      {
        sittingId: sitting.id,
        seat: taken + 1,
        alias: joining.alias,
        tokenHash: hashOf(listenerToken),
        playback: joining.playback,
        simulated: false,
      },
      at,
    ).catch((error: unknown) => {
      if (violatesUnique(error, 'listener_alias')) {
        throw new UserError(
          409,
          `“${joining.alias}” is taken in this sitting; choose another name.`,
        );
      }
      throw error;
    });
    await announce(tx, sitting.comparisonId);
  });
  return listenerToken;
}

async function present(
  from: Db,
  token: string,
  listenerToken: string | undefined,
): Promise<{ sitting: HeardSitting; listener: ListenerRow }> {
  const sitting = await sittingBehind(from, token);
  const listener = await listenerBehind(from, sitting, listenerToken);
  if (!listener) {
    throw new UserError(
      401,
      'This browser has no seat in the sitting; open the link again to join.',
    );
  }
  return { sitting, listener };
}

/** Level set, or practice done: on to the next stage; never back. */
export async function finishStage(
  token: string,
  listenerToken: string | undefined,
  stage: 'level' | 'practice',
): Promise<void> {
  const { listener } = await present(db(), token, listenerToken);
  if (listener.stage === stage) {
    await setStage(db(), listener.id, stage === 'level' ? 'practice' : 'trials');
  }
}

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
    const { sitting, listener } = await present(tx, token, listenerToken);
    const state = await holdSitting(tx, sitting.id, 'answer');
    const earlier = await answerKeyAt(tx, listener.id, given.position);
    if (earlier !== null) {
      if (earlier === given.key) return;
      throw new UserError(409, 'This trial is answered already; the first answer stands.');
    }
    if (state !== 'open') throw new UserError(409, CLOSED);
    const next = (await countAnswers(tx, listener.id)) + 1;
    if (
      listener.stage !== 'trials' ||
      given.position !== next ||
      next > sitting.trialsPerListener
    ) {
      throw new UserError(409, 'This is not the trial to answer now; reload to see the right one.');
    }
    if (given.choice === 'tie' && !sitting.tiesAllowed) {
      throw new UserError(422, 'This sitting asks for a choice; a tie is not allowed.');
    }
    const least = leastHeardS(sitting) * 0.95;
    if (given.firstHeardS < least || given.secondHeardS < least) {
      throw new UserError(422, 'Hear both recordings before you answer.');
    }
    const place = { listenerId: listener.id, sittingId: sitting.id, seat: listener.seat };
    if (!(await insertAnswer(tx, place, given, at))) {
      // Two copies at once, or a key used before: only the very same answer counts as kept.
      if ((await answerKeyAt(tx, listener.id, given.position)) === given.key) return;
      throw new UserError(409, 'This answer was not kept; reload and answer again.');
    }
    await announce(tx, sitting.comparisonId);
  });
}

/** Which stored clip an address means for this listener now; addresses of other trials are unknown. */
export async function clipFor(
  token: string,
  listenerToken: string | undefined,
  address: string,
): Promise<{ audioId: number; seed: number; levelLufs: number | null }> {
  const { sitting, listener } = await present(db(), token, listenerToken);
  const variant = SETTLING.findIndex((clip) => clip.address === address);
  if (variant >= 0) {
    const audioId = await settlingClipAt(db(), sitting.clipSetId, variant);
    if (audioId === null) throw notFound('clip');
    return { audioId, seed: hash32(`${listener.id} ${address}`) >>> 0, levelLufs: null };
  }
  const answered = await countAnswers(db(), listener.id);
  const found =
    sitting.state === 'open' && listener.stage === 'trials'
      ? await clipAt(db(), sitting.id, listener.seat, address, answered + 1, answered + 2)
      : null;
  if (!found) throw notFound('clip');
  return found;
}
