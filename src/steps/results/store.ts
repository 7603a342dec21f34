import type { MatchMethod } from '@/core/matching/methods';
import { type ClipDetails, storedDetails } from '@/steps/match/stored';
import type { TaskId } from '@/core/tasks';
import type { Answer, TrialKind } from '@/core/tasks/task';
import type { Db, Tx } from '@/platform/database';
import { grouped } from '@/platform/grouped';
import type { ListenerGuess, REVEALS } from '@/steps/sitting/schema';
import type { Standing } from './standings';

export interface ClosedSitting {
  id: string;
  comparisonId: string;
  title: string;
  seal: string | null;
  sealedKey: string | null;
  sealBrokenAt: Date | null;
  sealBrokenReason: string | null;
  simulated: boolean;
  room: 'own' | 'together';
  reveal: (typeof REVEALS)[number];
  /** The pack whose sheets the answers came from; null where they were given here. */
  blindPackId: string | null;
  /** The file of another program that it was brought in from, and its SHA-256; null where it was not. */
  broughtFile: string | null;
  broughtSha256: string | null;
  closedAt: Date | null;
  /** As it lies there; what an older version made is no analysis any more. */
  analysis: unknown;
}

const COLUMNS = `id, comparison_id AS "comparisonId", title, seal, sealed_key AS "sealedKey",
  seal_broken_at AS "sealBrokenAt", seal_broken_reason AS "sealBrokenReason", simulated, room, reveal,
  blind_pack_id AS "blindPackId", brought_file AS "broughtFile", brought_sha256 AS "broughtSha256", closed_at AS "closedAt", analysis`;

/** A sitting with its key, only once it is closed: before, key and analysis are not even read. */
export async function findClosed(db: Db, id: string): Promise<ClosedSitting | null> {
  const [row] = await db.rows<ClosedSitting>(
    `SELECT ${COLUMNS} FROM sitting WHERE id = $1 AND state = 'closed'`,
    [id],
  );
  return row ?? null;
}

/** Many closed sittings with their keys. */
export async function findAllClosed(db: Db, ids: readonly string[]): Promise<ClosedSitting[]> {
  return db.rows<ClosedSitting>(
    `SELECT ${COLUMNS} FROM sitting WHERE id = ANY ($1::uuid[]) AND state = 'closed'`,
    [ids],
  );
}

/** The file that a sitting was brought in from, as it came. */
export async function broughtCsv(db: Db, sittingId: string): Promise<Buffer | null> {
  const [row] = await db.rows<{ csv: Buffer | null }>(
    'SELECT brought_csv AS csv FROM sitting WHERE id = $1',
    [sittingId],
  );
  return row?.csv ?? null;
}

/** A sitting whose key may be read: closed, or its seal was broken. */
export async function findReadable(db: Db, id: string): Promise<ClosedSitting | null> {
  const [row] = await db.rows<ClosedSitting>(
    `SELECT ${COLUMNS} FROM sitting
     WHERE id = $1 AND (state = 'closed' OR seal_broken_at IS NOT NULL)`,
    [id],
  );
  return row ?? null;
}

export interface HeardPart {
  number: number;
  clipSetId: string;
  task: TaskId;
  prompt: string;
  sourceId: string;
  sourceName: string;
  passageId: string;
  passageName: string;
  context: string;
  /** What was made equal in its clips. */
  method: MatchMethod;
}

export async function partsOfSitting(db: Db, sittingId: string): Promise<HeardPart[]> {
  return (await partsOfSittings(db, [sittingId])).get(sittingId) ?? [];
}

/** The parts of each of many sittings. */
export async function partsOfSittings(
  db: Db,
  sittingIds: readonly string[],
): Promise<Map<string, HeardPart[]>> {
  const rows = await db.rows<HeardPart & { of: string }>(
    `SELECT sitting_id AS of, number, clip_set_id AS "clipSetId", task, prompt, source.id AS "sourceId", source.name AS "sourceName", passage.id AS "passageId",
       passage.name AS "passageName", context, method
     FROM part JOIN clip_set ON clip_set.id = part.clip_set_id
     JOIN passage ON passage.id = clip_set.passage_id
     JOIN source ON source.id = passage.source_id WHERE sitting_id = ANY ($1::uuid[]) ORDER BY number`,
    [sittingIds],
  );
  return grouped(rows);
}

/** Which chains each part of many sittings asks about. */
export async function chainsAsked(
  db: Db,
  sittingIds: readonly string[],
): Promise<{ sittingId: string; task: TaskId; chainIds: string[] }[]> {
  return db.rows(
    `SELECT sitting_id AS "sittingId", task, array_agg(clip.chain_id) AS "chainIds"
     FROM part JOIN clip ON clip.clip_set_id = part.clip_set_id
       AND (first_chain_id IS NULL OR clip.chain_id IN (first_chain_id, second_chain_id))
     WHERE sitting_id = ANY ($1::uuid[]) GROUP BY sitting_id, number`,
    [sittingIds],
  );
}

export interface AnswerRow {
  listenerId: string;
  listener: string;
  seat: number;
  position: number;
  part: number;
  kind: TrialKind;
  rightSlot: number | null;
  /** In the order of the slots. */
  clips: { chainId: string; word: string; gainDb: number; firstFetchedAt: string | null }[];
  answer: Answer;
  heardS: number[];
  switches: number;
  durationS: number;
  hasty: boolean;
  /** By the bank's own clock, seconds since the answer before or since the sound was there. */
  serverS: number | null;
  /** Some sound of the trial was never sent to the listener. */
  unfetched: boolean;
  answeredAt: Date;
  /** In the listener's own words; mostly empty. */
  remark: string;
  /** Given after names of its part had been told to somebody. */
  afterNames: boolean;
}

/** All answers of a closed sitting with their key. */
export async function listAnswers(db: Db, sittingId: string): Promise<AnswerRow[]> {
  return (await listAnswersOf(db, [sittingId])).get(sittingId) ?? [];
}

/** What listeners of a sitting expected, where they said so. */
export async function guessesOf(
  db: Db,
  sittingId: string,
): Promise<{ listenerId: string; seat: number; guess: ListenerGuess }[]> {
  return db.rows(
    `SELECT id AS "listenerId", seat, guess FROM listener
     WHERE sitting_id = $1 AND guess IS NOT NULL ORDER BY seat`,
    [sittingId],
  );
}

/** How many trials each seat of a sitting has. */
export async function trialsOfSeats(db: Db, sittingId: string): Promise<Map<number, number>> {
  const rows = await db.rows<{ seat: number; trials: number }>(
    'SELECT seat, count(*)::int AS trials FROM trial WHERE sitting_id = $1 GROUP BY seat',
    [sittingId],
  );
  return new Map(rows.map(({ seat, trials }) => [seat, trials]));
}

/**
 * Answers of sittings $1 with what was heard, as far as a condition lets them be read.
 * @param heardBy of whose clips only; all of a large sitting are many
 */
const answersWhere = (mayBeRead: string, heardBy = '') =>
  `SELECT answer.sitting_id AS of, listener.id AS "listenerId", listener.alias AS listener, answer.seat, answer.position, part, kind,
       right_slot AS "rightSlot", clips, answer.answer, heard_s AS "heardS", switches,
       duration_s AS "durationS", hasty, server_s AS "serverS", unfetched,
       answered_at AS "answeredAt", answer.remark,
       EXISTS (SELECT 1 FROM part_told WHERE part_told.sitting_id = answer.sitting_id
         AND part_told.part = trial.part AND told_at < answered_at) AS "afterNames"
     FROM answer JOIN listener ON listener.id = answer.listener_id
     JOIN trial ON trial.sitting_id = answer.sitting_id AND trial.seat = answer.seat
       AND trial.position = answer.position
     JOIN (SELECT sitting_id, seat, position, jsonb_agg(jsonb_build_object('chainId', chain_id, 'word', word,
             'gainDb', gain_db, 'firstFetchedAt', first_fetched_at) ORDER BY slot) AS clips
           FROM trial_clip WHERE sitting_id = ANY ($1::uuid[]) ${heardBy} GROUP BY sitting_id, seat, position) AS heard
       ON heard.sitting_id = answer.sitting_id AND heard.seat = answer.seat AND heard.position = answer.position
     JOIN sitting ON sitting.id = answer.sitting_id
     WHERE answer.sitting_id = ANY ($1::uuid[]) AND ${mayBeRead}
     ORDER BY answer.seat, answer.position`;

/** All answers of each of many closed sittings, with their keys. */
export async function listAnswersOf(
  db: Db,
  sittingIds: readonly string[],
): Promise<Map<string, AnswerRow[]>> {
  return grouped(
    await db.rows<AnswerRow & { of: string }>(answersWhere(`sitting.state = 'closed'`), [
      sittingIds,
    ]),
  );
}

/** What one listener answered in the first parts of a sitting that tells names after each. */
export async function listToldAnswers(
  db: Db,
  sittingId: string,
  listenerId: string,
  parts: number,
): Promise<AnswerRow[]> {
  return db.rows<AnswerRow>(
    answersWhere(
      `reveal = 'after each part' AND listener.id = $2 AND part <= $3`,
      'AND seat = (SELECT seat FROM listener WHERE id = $2)',
    ),
    [[sittingId], listenerId, parts],
  );
}

/** Names of the chains that a seat heard in the first parts of such a sitting. */
export async function toldNames(
  db: Db,
  sittingId: string,
  seat: number,
  parts: number,
): Promise<Map<string, string>> {
  const rows = await db.rows<{ id: string; name: string }>(
    `SELECT DISTINCT chain.id, chain.name
     FROM trial JOIN trial_clip USING (sitting_id, seat, position)
     JOIN chain ON chain.id = chain_id JOIN sitting ON sitting.id = sitting_id
     WHERE sitting_id = $1 AND seat = $2 AND part <= $3 AND reveal = 'after each part'`,
    [sittingId, seat, parts],
  );
  return new Map(rows.map(({ id, name }) => [id, name]));
}

/** An answer that was given with names in view, and what stood there. */
export interface SightedRow extends AnswerRow {
  shown: { name: string; priceCents: number | null }[];
}

/** What was answered with names in view, of each of many closed sittings; none of it is a blind answer. */
export async function listSightedOf(
  db: Db,
  sittingIds: readonly string[],
): Promise<Map<string, SightedRow[]>> {
  const rows = await db.rows<SightedRow & { of: string }>(
    `SELECT sighted.sitting_id AS of, listener.id AS "listenerId", listener.alias AS listener, sighted.seat,
       sighted.position, part, kind, right_slot AS "rightSlot", clips, sighted.answer, heard_s AS "heardS", switches,
       duration_s AS "durationS", false AS hasty, NULL::float8 AS "serverS", false AS unfetched,
       answered_at AS "answeredAt", '' AS remark, true AS "afterNames", shown
     FROM sighted_answer AS sighted JOIN listener ON listener.id = sighted.listener_id
     JOIN trial ON trial.sitting_id = sighted.sitting_id AND trial.seat = sighted.seat
       AND trial.position = sighted.position
     JOIN sitting ON sitting.id = sighted.sitting_id AND sitting.state = 'closed'
     CROSS JOIN LATERAL (SELECT jsonb_agg(jsonb_build_object('chainId', chain_id, 'word', word,
         'gainDb', gain_db, 'firstFetchedAt', first_fetched_at) ORDER BY slot) AS clips
       FROM trial_clip WHERE trial_clip.sitting_id = sighted.sitting_id
         AND trial_clip.seat = sighted.seat AND trial_clip.position = sighted.position) AS heard
     WHERE sighted.sitting_id = ANY ($1::uuid[]) ORDER BY sighted.seat, sighted.number`,
    [sittingIds],
  );
  return grouped(rows);
}

/** A clip of a closed sitting, as it was sealed. */
export interface SealedClip {
  part: number;
  chainId: string;
  audioId: number;
  sha256: string;
  details: ClipDetails;
  /** What was made equal in its set. */
  method: MatchMethod;
}

export async function listSealedClips(db: Db, sittingId: string): Promise<SealedClip[]> {
  const rows = await db.rows<SealedClip>(
    `SELECT part.number AS part, clip.chain_id AS "chainId", audio.id AS "audioId", sha256, clip.details,
       clip_set.method
     FROM part JOIN sitting ON sitting.id = sitting_id AND state = 'closed'
     JOIN clip ON clip.clip_set_id = part.clip_set_id
     JOIN clip_set ON clip_set.id = clip.clip_set_id
     JOIN chain ON chain.id = clip.chain_id JOIN audio ON audio.id = master_audio_id
     WHERE sitting_id = $1 ORDER BY part.number, chain.position`,
    [sittingId],
  );
  return rows.map((row) => ({ ...row, details: storedDetails.parse(row.details) }));
}

/** Puts how its chains stood in the place of what was said before. */
export async function storeStandings(
  tx: Tx,
  sittingId: string,
  standings: readonly Standing[],
): Promise<void> {
  await tx.rows('DELETE FROM chain_standing WHERE sitting_id = $1', [sittingId]);
  await tx.rows(
    `INSERT INTO chain_standing (sitting_id, part, chain_id, unit, value, low, high, leads, leaders, claimed, chains, listeners, words)
     SELECT $1, part, "chainId", unit, value, low, high, leads, leaders, claimed, chains, listeners, words
     FROM jsonb_to_recordset($2::jsonb) AS given (part smallint, "chainId" uuid, unit text, value float8, low float8,
       high float8, leads boolean, leaders smallint, claimed boolean, chains smallint, listeners smallint, words jsonb)`,
    [sittingId, JSON.stringify(standings)],
  );
}

/** A closed sitting that was read, but whose chains' standing is not written down in this version; by id, after one. */
export async function lacksStandings(
  db: Db,
  version: string,
  after: string,
): Promise<{ id: string; comparisonId: string } | null> {
  const [row] = await db.rows<{ id: string; comparisonId: string }>(
    `SELECT id, comparison_id AS "comparisonId" FROM sitting
     WHERE state = 'closed' AND purpose = 'panel' AND analysis IS NOT NULL
       AND standings IS DISTINCT FROM $1 AND id > $2 ORDER BY id LIMIT 1`,
    [version, after],
  );
  return row ?? null;
}
