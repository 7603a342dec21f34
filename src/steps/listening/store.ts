import type { AskedPair } from '@/core/design/adaptive';
import type { Json } from '@/core/design/seal';
import { type TrainingSound, trainingVariant } from '@/core/simulation/training-sounds';
import type { TaskId } from '@/core/tasks';
import type { TrialKind } from '@/core/tasks/task';
import type { Db, Tx } from '@/platform/database';
import type { CopyOrder } from '@/platform/send-copy';
import { hashOfToken } from '@/platform/secret-link';
import { one } from '@/platform/one';
import { SEEN } from '@/platform/sign-in/seen';
import type { Purpose, REVEALS } from '@/steps/sitting/schema';
import type { ROOM_STAGES } from './schema';
import type { Witnessed } from '@/steps/sitting/seats';
import { countSeats } from '@/steps/sitting/store';

/** A sitting as listening needs it: nothing that tells chains apart. */
export interface HeardSitting {
  id: string;
  comparisonId: string;
  state: 'draft' | 'open' | 'closed';
  title: string;
  simulated: boolean;
  seats: number;
  seal: string | null;
  resetSound: 'none' | 'noise' | 'silence';
  trainingSound: TrainingSound;
  purpose: Purpose;
  room: 'own' | 'together';
  reveal: (typeof REVEALS)[number];
  /** Whether joining asks which chain will win. */
  asksGuess: boolean;
  /** How many of their own pairs each hears again with names. */
  sightedTrials: number;
  /** Whether the link that everybody shares takes new listeners. */
  sharedLink: boolean;
}

/** Chains of an opened sitting in the order of their names, which tells nothing of which is heard where. */
export async function chainsToGuess(
  db: Db,
  sittingId: string,
): Promise<{ id: string; name: string }[]> {
  return db.rows(
    `SELECT id, name FROM chain
     WHERE id IN (SELECT chain_id FROM trial_clip WHERE sitting_id = $1) ORDER BY lower(name), id`,
    [sittingId],
  );
}

/** Whom a personal link is for. */
export interface Invitee {
  panelistId: string;
  alias: string;
  withdrawn: boolean;
}

const HEARD = `sitting.id, comparison_id AS "comparisonId", state, title, sitting.simulated, seats, seal,
  reset_sound AS "resetSound", training_sound AS "trainingSound", purpose, room, reveal, asks_guess AS "asksGuess", sighted_trials AS "sightedTrials", shared_link AS "sharedLink"`;

/** What may change while a sitting is open. */
export interface RoomState {
  state: 'draft' | 'open' | 'closed';
  /** The trial that the room hears, 0 before the first. */
  roomPosition: number;
  /** Before the first. */
  roomStage: (typeof ROOM_STAGES)[number];
  /** Whether all of it was played. */
  roomHeard: boolean;
}

const ROOM = `room_position AS "roomPosition", room_stage AS "roomStage", room_heard AS "roomHeard"`;

export interface ListenerRow {
  id: string;
  seat: number;
  alias: string;
  stage: 'level' | 'practice' | 'trials';
  partsBegun: number;
  forgotten: boolean;
  /** How many devices opened the seat. */
  devices: number;
  /** How many pairs they answered with names in view. */
  sighted: number;
}

/** The device that asks, as its seat knows it. */
export interface DeviceRow {
  levelSet: boolean;
}

/** A link's sitting, whom the link is for, and who sits behind it in the browser that asks. */
export interface Seated {
  sitting: HeardSitting & RoomState;
  invitee: Invitee | null;
  listener: ListenerRow | null;
  /** Null on a device that the seat does not know: then nothing may be done but to ask for it. */
  device: DeviceRow | null;
  /** Answers that this listener gave. */
  answered: number;
}

/**
 * All that a request behind a link begins with, in one question: a panel asks this many times a second.
 * @param tokenHash of the secret that this browser keeps
 */
export async function findSeated(
  db: Db,
  token: string,
  tokenHash: string | null,
): Promise<Seated | null> {
  const [row] = await db.rows<Seated>(
    `SELECT
       (SELECT to_jsonb(heard) FROM (SELECT ${HEARD}, ${ROOM}) AS heard) AS sitting,
       CASE WHEN panelist.id IS NOT NULL THEN jsonb_build_object('panelistId', panelist.id,
         'alias', panelist.alias, 'withdrawn', withdrawn_at IS NOT NULL OR link.forgotten) END AS invitee,
       CASE WHEN listener.id IS NOT NULL THEN jsonb_build_object('id', listener.id, 'seat', seat,
         'alias', listener.alias, 'stage', stage, 'partsBegun', parts_begun,
         'forgotten', forgotten_at IS NOT NULL,
         'devices', (SELECT count(*) FROM seat_device WHERE listener_id = listener.id),
         'sighted', CASE WHEN sighted_trials = 0 THEN 0
           ELSE (SELECT count(*) FROM sighted_answer WHERE listener_id = listener.id) END) END AS listener,
       CASE WHEN seat_device.listener_id = listener.id
         THEN jsonb_build_object('levelSet', level_set) END AS device,
       (SELECT count(*)::int FROM answer WHERE listener_id = listener.id) AS answered
     FROM (SELECT id AS sitting_id, NULL::uuid AS panelist_id, NULL::timestamptz AS withdrawn_at,
             false AS forgotten
             FROM sitting WHERE token = $1
           UNION ALL
           SELECT sitting_id, panelist_id, withdrawn_at, forgotten FROM listener_link
             WHERE token_hash = $3) AS link
     JOIN sitting ON sitting.id = link.sitting_id
     LEFT JOIN panelist ON panelist.id = link.panelist_id
     LEFT JOIN seat_device ON seat_device.token_hash = $2
     LEFT JOIN listener ON listener.sitting_id = sitting.id
       AND (listener.panelist_id = link.panelist_id
         OR listener.id = seat_device.listener_id
           AND (link.panelist_id IS NULL OR forgotten_at IS NOT NULL))`,
    [token, tokenHash, hashOfToken(token)],
  );
  return row ?? null;
}

/** The sitting that a conductor's link runs, and which device plays it. */
export async function findByConductor(
  db: Db,
  token: string,
): Promise<(HeardSitting & { token: string; code: string; deviceHash: string | null }) | null> {
  const [row] = await db.rows<
    HeardSitting & { token: string; code: string; deviceHash: string | null }
  >(
    `SELECT ${HEARD}, token, code, device_hash AS "deviceHash"
     FROM sitting JOIN conductor_link ON sitting_id = sitting.id WHERE token_hash = $1`,
    [hashOfToken(token)],
  );
  return row ?? null;
}

export async function insertConductorLink(
  db: Db,
  sittingId: string,
  tokenHash: string,
  at: Date,
): Promise<void> {
  await db.rows(
    'INSERT INTO conductor_link (token_hash, sitting_id, created_at) VALUES ($1, $2, $3)',
    [tokenHash, sittingId, at],
  );
}

/** Binds a conductor's link to the device that plays first. @returns the device that holds it */
export async function bindConductor(
  db: Db,
  token: string,
  deviceHash: string,
  at: Date,
): Promise<string> {
  const row = await one(
    db.rows<{ held: string }>(
      `UPDATE conductor_link SET device_hash = coalesce(device_hash, $2),
       first_played_at = coalesce(first_played_at, $3)
     WHERE token_hash = $1 RETURNING device_hash AS held`,
      [hashOfToken(token), deviceHash, at],
    ),
  );
  return row.held;
}

/** A room that can be run, as far as whoever runs it may know. */
export interface OpenRoom {
  sittingId: string;
  title: string;
  seats: number;
  joined: number;
}

export async function openRooms(db: Db, viewerId: string): Promise<OpenRoom[]> {
  return db.rows<OpenRoom>(
    `SELECT sitting.id AS "sittingId", sitting.title, seats,
       (SELECT count(*)::int FROM listener WHERE sitting_id = sitting.id) AS joined
     FROM sitting JOIN comparison ON comparison.id = comparison_id
     WHERE ${SEEN} AND deleted_at IS NULL AND state = 'open' AND room = 'together'
       AND purpose = 'panel'
     ORDER BY opened_at`,
    [viewerId],
  );
}

/** The link behind a short code, while its sitting is open and it is not too old. */
export async function findByCode(db: Db, code: string, after: Date): Promise<string | null> {
  const [row] = await db.rows<{ token: string }>(
    `SELECT token FROM sitting
     WHERE code = $1 AND state = 'open' AND shared_link AND purpose = 'panel' AND opened_at > $2`,
    [code, after],
  );
  return row?.token ?? null;
}

export async function roomOf(db: Db, sittingId: string): Promise<RoomState> {
  const row = await one(
    db.rows<RoomState>(`SELECT state, ${ROOM} FROM sitting WHERE id = $1`, [sittingId]),
  );
  return row;
}

/** How many in a room have practised. */
export async function countPractised(db: Db, sittingId: string): Promise<number> {
  const { count } = await one(
    db.rows<{ count: number }>(
      `SELECT count(*)::int AS count FROM listener WHERE sitting_id = $1 AND stage = 'trials'`,
      [sittingId],
    ),
  );
  return count;
}

export async function countAnswersAt(db: Db, sittingId: string, position: number): Promise<number> {
  const { count } = await one(
    db.rows<{ count: number }>(
      'SELECT count(*)::int AS count FROM answer WHERE sitting_id = $1 AND position = $2',
      [sittingId, position],
    ),
  );
  return count;
}

export interface HeardPart {
  number: number;
  task: TaskId;
  clipSetId: string;
  prompt: string;
  tiesAllowed: boolean;
  words: string[];
  clipSeconds: number;
  /** Positions of each seat from here to there. */
  from: number;
  to: number;
  /** Most clips of a trial. */
  slots: number;
  /** Lot of adaptive pairs; null where orders are fixed. */
  adaptiveSeed: number | null;
}

/** Parts never change once a sitting is open, and every request asks for them. */
const known = new Map<string, HeardPart[]>();
const MOST_KNOWN = 100;

/** The parts of an opened sitting, in order; every seat has the same number of trials in each. */
export async function partsOf(db: Db, sittingId: string): Promise<HeardPart[]> {
  const kept = known.get(sittingId);
  if (kept) return kept;
  const parts = await readParts(db, sittingId);
  if (known.size >= MOST_KNOWN) known.clear();
  if (parts.length > 0) known.set(sittingId, parts);
  return parts;
}

function readParts(db: Db, sittingId: string): Promise<HeardPart[]> {
  return db.rows<HeardPart>(
    `SELECT number, task, part.clip_set_id AS "clipSetId", prompt, ties_allowed AS "tiesAllowed", words,
       passage_to_s - passage_from_s AS "clipSeconds", places."from", places."to", places.slots,
       adaptive_seed AS "adaptiveSeed"
     FROM part JOIN clip_set ON clip_set.id = part.clip_set_id
     JOIN (SELECT part, min(trial.position) AS "from", max(trial.position) AS "to",
             max(slot) + 1 AS slots
           FROM trial JOIN trial_clip USING (sitting_id, seat, position)
           WHERE sitting_id = $1 AND seat = 1 GROUP BY part) AS places ON places.part = number
     WHERE sitting_id = $1 ORDER BY number`,
    [sittingId],
  );
}

/** Holds the sitting as it is until the end of the transaction: joining goes one by one. */
export async function holdForJoining(tx: Tx, id: string): Promise<RoomState['state']> {
  const { state } = await one(
    tx.rows<RoomState>('SELECT state FROM sitting WHERE id = $1 FOR UPDATE', [id]),
  );
  return state;
}

export interface HeldForAnswer extends RoomState {
  /** When the room came to its trial, and how long each of its clips was heard; null in sittings of before. */
  roomBeganAt: Date | null;
  roomHeardS: number[] | null;
  answered: number;
  keyThere: string | null;
}

/** Holds the sitting so that it cannot close before the end of the transaction; answers go side by side. */
export async function holdForAnswer(
  tx: Tx,
  sittingId: string,
  listenerId: string,
  position: number,
): Promise<HeldForAnswer> {
  return one(
    tx.rows<HeldForAnswer>(
      `SELECT state, ${ROOM}, room_began_at AS "roomBeganAt", room_heard_s AS "roomHeardS",
       (SELECT count(*)::int FROM answer WHERE listener_id = $2) AS answered,
       (SELECT idempotency_key FROM answer WHERE listener_id = $2 AND position = $3) AS "keyThere"
     FROM sitting WHERE id = $1 FOR SHARE`,
      [sittingId, listenerId, position],
    ),
  );
}

/** The seat that somebody holds by their personal link. */
export async function seatOfPanelist(
  db: Db,
  sittingId: string,
  panelistId: string,
): Promise<string | null> {
  const [row] = await db.rows<{ id: string }>(
    'SELECT id FROM listener WHERE sitting_id = $1 AND panelist_id = $2',
    [sittingId, panelistId],
  );
  return row?.id ?? null;
}

export async function countListeners(db: Db, sittingId: string): Promise<number> {
  return (await countSeats(db, sittingId)).taken;
}

/** Lets a device open a seat. */
export async function insertDevice(
  db: Db,
  listenerId: string,
  tokenHash: string,
  at: Date,
): Promise<void> {
  await db.rows(
    'INSERT INTO seat_device (token_hash, listener_id, first_seen_at) VALUES ($1, $2, $3)',
    [tokenHash, listenerId, at],
  );
}

export async function setLevelSet(db: Db, tokenHash: string): Promise<void> {
  await db.rows('UPDATE seat_device SET level_set = true WHERE token_hash = $1', [tokenHash]);
}

/** A seat of the sitting that a browser holds by another link. */
export async function seatOfDevices(
  db: Db,
  sittingId: string,
  tokenHashes: readonly string[],
): Promise<{ seat: number; forgotten: boolean } | null> {
  const [row] = await db.rows<{ seat: number; forgotten: boolean }>(
    `SELECT seat, forgotten_at IS NOT NULL AS forgotten FROM listener
     JOIN seat_device ON listener_id = listener.id
     WHERE sitting_id = $1 AND token_hash = ANY ($2::text[])
     ORDER BY forgotten_at NULLS LAST, seat LIMIT 1`,
    [sittingId, tokenHashes],
  );
  return row ?? null;
}

export interface HeardTrial {
  position: number;
  part: number;
  kind: TrialKind;
  clips: { word: string; address: string }[];
}

/** The trials of a seat at these positions; of their clips words and addresses only. */
export async function trialsAt(
  db: Db,
  sittingId: string,
  seat: number,
  from: number,
  to: number,
): Promise<HeardTrial[]> {
  return db.rows<HeardTrial>(
    `SELECT position, part, kind,
       jsonb_agg(jsonb_build_object('word', word, 'address', address) ORDER BY slot) AS clips
     FROM trial JOIN trial_clip USING (sitting_id, seat, position)
     WHERE sitting_id = $1 AND seat = $2 AND position BETWEEN $3 AND $4
     GROUP BY position, part, kind ORDER BY position`,
    [sittingId, seat, from, to],
  );
}

/** What a listener was asked in a part, and what they said so far. */
export async function askedPairs(
  db: Db,
  sittingId: string,
  seat: number,
  part: number,
): Promise<AskedPair[]> {
  return db.rows<AskedPair>(
    `SELECT trial.position, kind, a.chain_id AS "firstChainId", b.chain_id AS "secondChainId",
       answer->>'choice' AS choice
     FROM trial
     JOIN trial_clip AS a ON (a.sitting_id, a.seat, a.position, a.slot)
       = (trial.sitting_id, trial.seat, trial.position, 0)
     JOIN trial_clip AS b ON (b.sitting_id, b.seat, b.position, b.slot)
       = (trial.sitting_id, trial.seat, trial.position, 1)
     LEFT JOIN answer ON (answer.sitting_id, answer.seat, answer.position)
       = (trial.sitting_id, trial.seat, trial.position)
     WHERE trial.sitting_id = $1 AND trial.seat = $2 AND trial.part = $3 ORDER BY trial.position`,
    [sittingId, seat, part],
  );
}

/** All chains of a set, in an order that does not change. */
export async function chainIdsOf(db: Db, clipSetId: string): Promise<string[]> {
  const rows = await db.rows<{ id: string }>(
    'SELECT chain_id AS id FROM clip WHERE clip_set_id = $1 ORDER BY chain_id',
    [clipSetId],
  );
  return rows.map(({ id }) => id);
}

/** The copy that an address means, and where it is noted that it was sent. */
export interface AddressedCopy {
  order: CopyOrder;
  place: { position: number; slot: number };
}

/**
 * The clip behind an address, if it belongs to one of these positions of the seat. Near the gate of the loudness
 * measure, where a room at the same gain may lie, a copy has the clip's gain and is not judged by its loudness.
 */
export async function clipAt(
  db: Db,
  sittingId: string,
  seat: number,
  address: string,
  from: number,
  to: number,
): Promise<AddressedCopy | null> {
  const [row] = await db.rows<AddressedCopy>(
    `SELECT jsonb_build_object('position', trial.position, 'slot', slot) AS place, jsonb_build_object(
       'audioId', master_audio_id,
       'seeds', jsonb_build_object('trial', trial.seed, 'clip', trial_clip.seed),
       'gainDb', trial_clip.gain_db, 'levelLufs', CASE WHEN clip_set.method = 'loudness'
         THEN (clip_set.facts->>'targetLufs')::float8 + coalesce((clip.details->>'onPurposeDb')::float8, 0)
         WHEN after_lufs > -60 THEN after_lufs END) AS "order"
     FROM trial_clip JOIN trial USING (sitting_id, seat, position)
     JOIN clip ON clip.clip_set_id = trial_clip.clip_set_id AND clip.chain_id = trial_clip.chain_id
     JOIN clip_set ON clip_set.id = trial_clip.clip_set_id
     WHERE sitting_id = $1 AND seat = $2 AND address = $3 AND position BETWEEN $4 AND $5`,
    [sittingId, seat, address, from, to],
  );
  return row ?? null;
}

/** The clip of a training sound; that of music for a set that was made before there was another. */
export async function trainingClipAt(
  db: Db,
  clipSetId: string,
  sound: TrainingSound,
  variant: number,
): Promise<number | null> {
  const [row] = await db.rows<{ id: number }>(
    `SELECT master_audio_id AS id FROM settling_clip WHERE clip_set_id = $1 AND variant IN ($2, $3)
     ORDER BY variant DESC LIMIT 1`,
    [clipSetId, trainingVariant(sound, variant), trainingVariant('music', variant)],
  );
  return row?.id ?? null;
}

export async function witnessed(
  db: Db,
  place: { listenerId: string; sittingId: string; seat: number },
  position: number,
  at: Date,
): Promise<Witnessed> {
  const row = await one(
    db.rows<Witnessed>(
      `SELECT extract(epoch FROM $5::timestamptz - greatest(max(first_fetched_at),
         (SELECT answered_at FROM answer WHERE listener_id = $1 AND position = $4 - 1)))::float8 AS "serverS",
       bool_or(first_fetched_at IS NULL) AS unfetched
     FROM trial_clip WHERE sitting_id = $2 AND seat = $3 AND position = $4`,
      [place.listenerId, place.sittingId, place.seat, position, at],
    ),
  );
  return { ...row, serverS: row.serverS === null ? null : Math.max(0, row.serverS) };
}

/** Everything that a listener answered, for the receipt. */
export async function answersOf(
  db: Db,
  listenerId: string,
): Promise<{ position: number; answer: Json; answeredAt: Date }[]> {
  return db.rows(
    `SELECT position, answer, answered_at AS "answeredAt" FROM answer
     WHERE listener_id = $1 ORDER BY position`,
    [listenerId],
  );
}

/** The key of a sitting once it is closed, exactly as it was sealed. */
export async function openedKey(db: Db, sittingId: string): Promise<string | null> {
  const [row] = await db.rows<{ key: string }>(
    `SELECT sealed_key AS key FROM sitting WHERE id = $1 AND state = 'closed'`,
    [sittingId],
  );
  return row?.key ?? null;
}

/** A pair of a listener's own that is heard again with names. */
export interface SightedTrial {
  /** Of the blind trial. */
  position: number;
  part: number;
  clips: { chainId: string; name: string; address: string }[];
}

/** Which pairs of a seat come again, in the order in which they do: scattered over its trials, the same whenever asked. */
export async function sightedTrialsOf(
  db: Db,
  sittingId: string,
  seat: number,
  parts: readonly number[],
  most: number,
): Promise<SightedTrial[]> {
  return db.rows<SightedTrial>(
    `SELECT drawn.position, part, jsonb_agg(jsonb_build_object('chainId', chain_id, 'name', chain.name,
       'address', address) ORDER BY slot) AS clips
     FROM (SELECT position, part, md5(seat || ' ' || position) AS scatter FROM trial
           WHERE sitting_id = $1 AND seat = $2 AND part = ANY ($3::int[]) AND kind = 'judged'
           ORDER BY scatter LIMIT $4) AS drawn
     JOIN trial_clip ON sitting_id = $1 AND seat = $2 AND trial_clip.position = drawn.position
     JOIN chain ON chain.id = chain_id
     GROUP BY drawn.position, part, scatter ORDER BY scatter`,
    [sittingId, seat, parts, most],
  );
}

export async function sightedKeyAt(
  db: Db,
  listenerId: string,
  number: number,
): Promise<string | null> {
  const [row] = await db.rows<{ key: string }>(
    'SELECT idempotency_key AS key FROM sighted_answer WHERE listener_id = $1 AND number = $2',
    [listenerId, number],
  );
  return row?.key ?? null;
}

/** How many parts of a sitting had their names told to anybody. */
export async function countTold(db: Db, sittingId: string): Promise<number> {
  const { count } = await one(
    db.rows<{ count: number }>(
      'SELECT count(*)::int AS count FROM part_told WHERE sitting_id = $1',
      [sittingId],
    ),
  );
  return count;
}

export async function answerKeyAt(
  db: Db,
  listenerId: string,
  position: number,
): Promise<string | null> {
  const [row] = await db.rows<{ key: string }>(
    'SELECT idempotency_key AS key FROM answer WHERE listener_id = $1 AND position = $2',
    [listenerId, position],
  );
  return row?.key ?? null;
}
