import type { Db } from '@/platform/database';
import { one } from '@/platform/one';
import { aliasKey } from './alias';
import type { ListenerGuess } from './schema';

/** What the bank itself saw of a trial before its answer. */
export interface Witnessed {
  /** Since the answer before, or since its sound was there; null for neither. */
  serverS: number | null;
  /** Whether some of its sound was never sent. */
  unfetched: boolean;
}

/** What somebody answers in a trial, and how it came about. */
export interface GivenAnswer extends Witnessed {
  position: number;
  answer: object;
  /** Of this one sending, so that it counts once. */
  key: string;
  heardS: readonly number[];
  switches: number;
  durationS: number;
  hasty: boolean;
  remark?: string;
}

/** Moves the room on; only from where it stands. @returns whether it moved */
export async function moveRoom(
  db: Db,
  sittingId: string,
  from: number,
  at: Date,
): Promise<boolean> {
  const rows = await db.rows(
    `UPDATE sitting SET room_position = $2 + 1, room_heard = false, room_heard_s = NULL, room_began_at = $3
     WHERE id = $1 AND room_position = $2 AND state = 'open' RETURNING id`,
    [sittingId, from, at],
  );
  return rows.length > 0;
}

/** Keeps that all of the room's trial was played, and for how long each clip; more may be heard later. */
export async function keepRoomHeard(
  db: Db,
  sittingId: string,
  position: number,
  heardS: readonly number[] | null,
): Promise<boolean> {
  const rows = await db.rows(
    `UPDATE sitting SET room_heard = true, room_heard_s = coalesce($3::real[], room_heard_s)
     WHERE id = $1 AND room_position = $2 AND state = 'open' RETURNING id`,
    [sittingId, position, heardS],
  );
  return rows.length > 0;
}

/** Before the first trial of a room. */
export async function setRoomStage(db: Db, sittingId: string, stage: string): Promise<boolean> {
  const rows = await db.rows(
    `UPDATE sitting SET room_stage = $2, room_heard = false
     WHERE id = $1 AND room_position = 0 AND state = 'open' AND room_stage <> $2 RETURNING id`,
    [sittingId, stage],
  );
  return rows.length > 0;
}

export async function setStage(db: Db, listenerId: string, stage: string): Promise<void> {
  await db.rows('UPDATE listener SET stage = $2 WHERE id = $1', [listenerId, stage]);
}

export async function setPartsBegun(db: Db, listenerId: string, parts: number): Promise<void> {
  await db.rows('UPDATE listener SET parts_begun = greatest(parts_begun, $2) WHERE id = $1', [
    listenerId,
    parts,
  ]);
}

export async function countLevelChange(db: Db, listenerId: string): Promise<void> {
  await db.rows('UPDATE listener SET level_changes = level_changes + 1 WHERE id = $1', [
    listenerId,
  ]);
}

/** Notes when a copy was first sent. */
export async function markFetched(
  db: Db,
  place: { sittingId: string; seat: number; position: number; slot: number },
  at: Date,
): Promise<void> {
  await db.rows(
    `UPDATE trial_clip SET first_fetched_at = $5
     WHERE sitting_id = $1 AND seat = $2 AND position = $3 AND slot = $4 AND first_fetched_at IS NULL`,
    [place.sittingId, place.seat, place.position, place.slot, at],
  );
}

/** @returns whether this answer was new */
export async function insertAnswer(
  db: Db,
  place: { listenerId: string; sittingId: string; seat: number },
  given: GivenAnswer,
  at: Date,
): Promise<boolean> {
  const rows = await db.rows(
    `INSERT INTO answer (listener_id, sitting_id, seat, position, answer, idempotency_key, heard_s,
       switches, duration_s, hasty, server_s, unfetched, answered_at, remark)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14) ON CONFLICT DO NOTHING RETURNING position`,
    [
      place.listenerId,
      place.sittingId,
      place.seat,
      given.position,
      JSON.stringify(given.answer),
      given.key,
      given.heardS,
      given.switches,
      given.durationS,
      given.hasty,
      given.serverS,
      given.unfetched,
      at,
      given.remark ?? '',
    ],
  );
  return rows.length > 0;
}

/** Keeps when the names of a part could be read first. */
export async function markTold(db: Db, sittingId: string, part: number, at: Date): Promise<void> {
  await db.rows(
    'INSERT INTO part_told (sitting_id, part, told_at) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING',
    [sittingId, part, at],
  );
}

/** Keeps what was answered with names in view, and what stood there. @returns whether this answer was new */
export async function insertSighted(
  db: Db,
  place: { listenerId: string; sittingId: string; seat: number; number: number },
  given: Omit<GivenAnswer, 'hasty' | 'remark' | keyof Witnessed> & { shown: object },
  at: Date,
): Promise<boolean> {
  const rows = await db.rows(
    `INSERT INTO sighted_answer (listener_id, sitting_id, seat, number, position, answer, idempotency_key,
       heard_s, switches, duration_s, shown, answered_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12) ON CONFLICT DO NOTHING RETURNING number`,
    [
      place.listenerId,
      place.sittingId,
      place.seat,
      place.number,
      given.position,
      JSON.stringify(given.answer),
      given.key,
      given.heardS,
      given.switches,
      given.durationS,
      JSON.stringify(given.shown),
      at,
    ],
  );
  return rows.length > 0;
}

/** Answers that were given elsewhere, on paper or in a sheet; nothing is known of how they came about. */
export async function insertWritten(
  db: Db,
  sittingId: string,
  answers: readonly {
    listenerId: string;
    seat: number;
    position: number;
    answer: object;
    remark: string;
  }[],
  at: Date,
): Promise<void> {
  const column = <K extends keyof (typeof answers)[number]>(name: K) =>
    answers.map((one) => one[name]);
  await db.rows(
    `INSERT INTO answer (sitting_id, answered_at, listener_id, seat, position, answer, remark, idempotency_key,
       heard_s, switches, duration_s, unfetched)
     SELECT $1::uuid, $2::timestamptz, listener_id, seat, position, answer, remark, gen_random_uuid(), '{}', 0, 0, false
     FROM unnest($3::uuid[], $4::int[], $5::int[], $6::jsonb[], $7::text[])
       AS given (listener_id, seat, position, answer, remark)`,
    [
      sittingId,
      at,
      column('listenerId'),
      column('seat'),
      column('position'),
      column('answer').map((answer) => JSON.stringify(answer)),
      column('remark'),
    ],
  );
}

export async function insertListener(
  db: Db,
  listener: {
    sittingId: string;
    seat: number;
    alias: string;
    playback: string;
    simulated: boolean;
    panelistId?: string | null;
    sameAsSeat?: number | null;
    /** What they expected, where they were asked. */
    guess?: ListenerGuess | null;
  },
  at: Date,
): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO listener (sitting_id, seat, alias, alias_key, playback, simulated, panelist_id,
       same_as_seat, consented_at, guess)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) RETURNING id`,
      [
        listener.sittingId,
        listener.seat,
        listener.alias,
        aliasKey(listener.alias),
        listener.playback,
        listener.simulated,
        listener.panelistId ?? null,
        listener.sameAsSeat ?? null,
        at,
        listener.guess ? JSON.stringify(listener.guess) : null,
      ],
    ),
  );
  return id;
}

/** Puts a pair in the place of what was laid out for a trial; words, addresses and dither stay. */
export async function replacePair(
  db: Db,
  place: { sittingId: string; seat: number; position: number },
  chainIds: readonly [string, string],
): Promise<void> {
  await db.rows(
    `UPDATE trial_clip SET chain_id = ($4::uuid[])[slot + 1]
     WHERE sitting_id = $1 AND seat = $2 AND position = $3`,
    [place.sittingId, place.seat, place.position, chainIds],
  );
}

/**
 * Answers that were ever written, by the database's own count: it costs nothing to ask, lags by about a second, and begins
 * anew when the database forgets its counts.
 */
export async function answersWritten(db: Db): Promise<number> {
  const { written } = await one(
    db.rows<{ written: number }>(
      `SELECT coalesce(max(n_tup_ins), 0)::float8 AS written FROM pg_stat_user_tables
       WHERE schemaname = current_schema() AND relname = 'answer'`,
    ),
  );
  return written;
}
