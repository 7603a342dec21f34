import { db, transaction } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { mayTry, takeBack } from '@/platform/limits';
import { announce } from '@/platform/live';
import { freshToken, hashOfToken } from '@/platform/secret-link';
import type { SignedIn } from '@/platform/sign-in/service';
import { type Conducting } from './schema';
import { conductorView, type ConductorView } from './views';
import {
  leastHeardS,
  minutesAfter,
  partAt,
  partViewOf,
  type Served,
  trainingClipsOf,
  trainingServed,
  worded,
} from './service';
import {
  bindConductor,
  clipAt,
  countAnswersAt,
  countListeners,
  countPractised,
  findByCode,
  findByConductor,
  insertConductorLink,
  type OpenRoom,
  openRooms,
  partsOf,
  roomOf,
  trialsAt,
} from './store';
import {
  keepRoomHeard,
  markFetched,
  markTold,
  moveRoom,
  setRoomStage,
} from '@/steps/sitting/seats';

/** All seats of a room have the trials of the first. */
const SEAT = 1;
const CODE_LASTS_MS = 24 * 3600 * 1000;

const ELSEWHERE =
  'This room is run on another device; ask the engineer for a link of your own, or go on there.';

/** The room behind a conductor's link, for the device that plays it; for any until one does. */
async function roomBehind(token: string, device: string | undefined) {
  const sitting = await findByConductor(db(), token);
  if (!sitting || sitting.state === 'draft' || sitting.seal === null) throw notFound('sitting');
  const { deviceHash } = sitting;
  if (deviceHash !== null && (!device || hashOfToken(device) !== deviceHash)) {
    throw new UserError(404, ELSEWHERE);
  }
  return { ...sitting, state: sitting.state, seal: sitting.seal };
}

/** The rooms of a studio that can be run now, for whoever signs in as a conductor. */
export async function roomsOf(person: SignedIn): Promise<OpenRoom[]> {
  return openRooms(db(), person.accountId);
}

/** Makes a link for whoever runs a room of their studio; it is shown once, and only its hash is kept. */
export async function makeConductorLink(
  person: SignedIn,
  sittingId: string,
  at: Date,
): Promise<{ token: string }> {
  const room = (await roomsOf(person)).find((one) => one.sittingId === sittingId);
  if (!room) throw notFound('room');
  const token = freshToken();
  await insertConductorLink(db(), sittingId, hashOfToken(token), at);
  return { token };
}

/** What the conductor may know now; built field by field like the listeners' view. */
export async function viewForConductor(
  token: string,
  device: string | undefined,
): Promise<ConductorView> {
  const sitting = await roomBehind(token, device);
  const parts = await partsOf(db(), sitting.id);
  const {
    roomPosition: position,
    roomStage: stage,
    roomHeard: heard,
  } = await roomOf(db(), sitting.id);
  const trials = parts[parts.length - 1]!.to;
  const part = partAt(parts, Math.max(1, position));
  const [now, next] = await trialsAt(
    db(),
    sitting.id,
    SEAT,
    Math.max(1, position),
    Math.max(1, position) + 1,
  );
  const running = position >= 1 && position <= trials && sitting.state === 'open';
  const coming = position === 0 ? now : next;
  const training = position === 0 ? trainingClipsOf(stage, part.task) : [];
  const behind = Math.max(0, position - 1);
  return conductorView.parse({
    state: sitting.state,
    title: sitting.title,
    simulated: sitting.simulated,
    seal: sitting.seal,
    resetSound: sitting.resetSound,
    token: sitting.token,
    code: sitting.code,
    trials,
    position,
    stage,
    heard,
    minutesLeft: minutesAfter(parts, behind),
    part: await partViewOf(sitting.id, SEAT, parts, part, behind, (running && now) || null),
    leastHeardS: leastHeardS(part),
    clips: running && now ? worded(part.task, now.clips) : training,
    comingAddresses: coming ? coming.clips.map(({ address }) => address) : [],
    tellsNames: sitting.reveal === 'after each part' && running && position === part.to,
    joined: await countListeners(db(), sitting.id),
    answered:
      position > 0
        ? await countAnswersAt(db(), sitting.id, position)
        : await countPractised(db(), sitting.id),
  });
}

/** Moves the room; asked twice from the same place it moves once. The first device that plays holds the link. */
export async function conduct(
  token: string,
  device: string | undefined,
  { what, from, heardS }: Conducting,
  at: Date,
): Promise<void> {
  const sitting = await roomBehind(token, device);
  if (!device) throw new UserError(401, 'Open the room’s page first; it keeps a cookie here.');
  const held = await bindConductor(db(), token, hashOfToken(device), at);
  if (held !== hashOfToken(device)) throw new UserError(404, ELSEWHERE);
  if (sitting.state === 'closed') {
    throw new UserError(409, 'This sitting is closed; nothing more can be played.');
  }
  const parts = await partsOf(db(), sitting.id);
  const trials = parts[parts.length - 1]!.to;
  if (what === 'next' && from > trials) return;
  await transaction(async (tx) => {
    const { roomPosition, roomHeard } = await roomOf(tx, sitting.id);
    if (roomPosition !== from) return;
    if (what === 'next' && from > 0 && !roomHeard) {
      throw new UserError(409, 'Play every recording of this trial first.');
    }
    const ended = parts.find(({ to }) => to === from);
    if (what === 'next' && ended && sitting.reveal === 'after each part') {
      await markTold(tx, sitting.id, ended.number, at);
    }
    const moved = {
      level: () => setRoomStage(tx, sitting.id, 'level'),
      practice: () => setRoomStage(tx, sitting.id, 'practice'),
      heard: () => keepRoomHeard(tx, sitting.id, from, heardS ?? null),
      next: () => moveRoom(tx, sitting.id, from, at),
    };
    if (await moved[what]()) await announce(tx, sitting.comparisonId);
  });
}

/** The stored clip behind an address of the present or the coming trial. */
export async function clipForConductor(
  token: string,
  device: string | undefined,
  address: string,
): Promise<Served> {
  const sitting = await roomBehind(token, device);
  const { roomPosition } = await roomOf(db(), sitting.id);
  const training = await trainingServed(sitting, address, `room ${sitting.id}`);
  if (training) return training;
  const found =
    sitting.state === 'open'
      ? await clipAt(db(), sitting.id, SEAT, address, roomPosition, roomPosition + 1)
      : null;
  if (!found) throw notFound('clip');
  const place = { sittingId: sitting.id, seat: SEAT, ...found.place };
  return {
    order: found.order,
    who: `room ${sitting.id}`,
    sent: (at) => markFetched(db(), place, at),
  };
}

/** The listeners' link behind a short code; guessing is slowed down for the place it comes from. */
export async function linkOfCode(
  code: string,
  place: string,
  at: Date,
): Promise<{ token: string }> {
  if (!(await mayTry('code', place))) {
    throw new UserError(
      429,
      'Too many codes were tried from here; wait a quarter of an hour, or use the link.',
    );
  }
  const token = await findByCode(db(), code, new Date(at.getTime() - CODE_LASTS_MS));
  if (token === null) {
    throw new UserError(404, 'No open sitting has this code; look at the screen again.');
  }
  await takeBack('code', place);
  return { token };
}
