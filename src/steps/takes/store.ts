import { dropUnfinishedAudio, dropUnusedAudio } from '@/platform/audio-store';
import type { Db, Tx } from '@/platform/database';
import { one } from '@/platform/one';
import type { ReferenceAlignment } from '@/core/checks/set/set-check';
import { FACTS_VERSION, type StoredFacts, storedFacts, storedReferenceAlignment } from './facts';
import type { Archive, StoredTake, Take } from './schema';

export interface UploadRow {
  id: string;
  comparison_id: string;
  audio_id: number;
  file_name: string;
  byte_length: number;
  pattern: string;
  received: number;
}

export async function insertUpload(
  db: Db,
  upload: Omit<UploadRow, 'received'>,
  at: Date,
): Promise<void> {
  await db.rows(
    `INSERT INTO upload (id, comparison_id, audio_id, file_name, byte_length, pattern, created_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [
      upload.id,
      upload.comparison_id,
      upload.audio_id,
      upload.file_name,
      upload.byte_length,
      upload.pattern,
      at,
    ],
  );
}

/** What uploads under way will still bring; held until the end of the transaction, so that promises add up. */
export async function promisedBytes(tx: Tx): Promise<number> {
  await tx.rows(`SELECT pg_advisory_xact_lock(hashtextextended('uploads', 5))`);
  const { bytes } = await one(
    tx.rows<{ bytes: number }>(
      'SELECT coalesce(sum(byte_length - received), 0)::bigint AS bytes FROM upload',
    ),
  );
  return bytes;
}

export async function findUpload(db: Db, id: string): Promise<UploadRow | null> {
  const [row] = await db.rows<UploadRow>(
    `SELECT id, comparison_id, audio_id, file_name, byte_length, pattern, received
     FROM upload WHERE id = $1`,
    [id],
  );
  return row ?? null;
}

/** @returns whether nobody else had written meanwhile */
export async function advanceUpload(
  db: Db,
  id: string,
  from: number,
  to: number,
): Promise<boolean> {
  const rows = await db.rows(
    'UPDATE upload SET received = $3 WHERE id = $1 AND received = $2 RETURNING id',
    [id, from, to],
  );
  return rows.length > 0;
}

export interface NewTake {
  comparisonId: string;
  audioId: number;
  fileName: string;
  chainId?: string | null;
  sourceId: string;
  programme?: string;
  detail?: string;
  channels?: number[] | null;
  simulated?: boolean;
}

export async function insertTake(db: Db, take: NewTake, at: Date): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO take (comparison_id, audio_id, file_name, chain_id, source_id, programme, detail,
       channels, simulated, created_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) RETURNING id`,
      [
        take.comparisonId,
        take.audioId,
        take.fileName,
        take.chainId ?? null,
        take.sourceId,
        take.programme ?? 'performance',
        take.detail ?? '',
        take.channels ?? null,
        take.simulated ?? false,
        at,
      ],
    ),
  );
  return id;
}

const COLUMNS = `id, chain_id AS "chainId", file_name AS "fileName", state, remark, facts,
  source_id AS "sourceId", programme, detail, channels, picked, nearest, foremost, simulated,
  performance AS "givenPerformance", relation AS "referenceAlignment",
  (SELECT capture = 'replayed' FROM source WHERE source.id = source_id) AS replayed,
  (SELECT coalesce(jsonb_agg(jsonb_build_object('check', check_name, 'reason', reason)
     ORDER BY check_name), '[]') FROM check_override WHERE take_id = take.id) AS overrides`;

/**
 * Copies takes with what was measured of them into a copy of their comparison; how they lie to each other is worked
 * out there. Sound is not stored twice.
 * @param chains of the copy beside those that they are copies of
 */
export async function copyTakes(
  db: Db,
  from: string,
  to: string,
  chains: readonly { old: string; new: string }[],
): Promise<void> {
  await db.rows(
    `INSERT INTO take (comparison_id, source_id, chain_id, audio_id, file_name, state, remark, facts, checks, peaks, created_at,
       programme, detail, channels, simulated, performance, picked, nearest, foremost)
     SELECT $2, fresh.id, pair.new, audio_id, file_name, state, remark, facts, checks, peaks, created_at,
       programme, detail, channels, simulated, performance, picked, nearest, foremost
     FROM take JOIN source ON source.id = source_id
       JOIN source AS fresh ON fresh.comparison_id = $2 AND fresh.position = source.position
       LEFT JOIN unnest($3::uuid[], $4::uuid[]) AS pair (old, new) ON pair.old = chain_id
     WHERE take.comparison_id = $1 AND state = 'ready'`,
    [from, to, chains.map((pair) => pair.old), chains.map((pair) => pair.new)],
  );
}

/** In each of many comparisons its takes, and the chains that have one to be matched; those without any are left out. */
export async function takeCounts(
  db: Db,
  comparisonIds: readonly string[],
): Promise<{ comparisonId: string; takes: number; assigned: number; simulated: number }[]> {
  return db.rows(
    `SELECT comparison_id AS "comparisonId", count(*)::int AS takes,
       (count(DISTINCT chain_id) FILTER (WHERE state = 'ready' AND programme = 'performance'))::int AS assigned,
       (count(*) FILTER (WHERE simulated))::int AS simulated
     FROM take WHERE comparison_id = ANY ($1::uuid[]) GROUP BY comparison_id`,
    [comparisonIds],
  );
}

export async function listTakes(db: Db, comparisonId: string): Promise<StoredTake[]> {
  const rows = await db.rows<StoredTake>(
    `SELECT ${COLUMNS} FROM take WHERE comparison_id = $1 ORDER BY created_at, file_name, channels`,
    [comparisonId],
  );
  return rows.map((row) => ({
    ...withFacts(row),
    referenceAlignment: storedReferenceAlignment.nullable().parse(row.referenceAlignment),
  }));
}

/** What was measured, as this version reads it. */
function withFacts<T extends { facts: unknown }>(row: T): T & { facts: StoredFacts | null } {
  return { ...row, facts: storedFacts.nullable().parse(row.facts) };
}

export interface TakeSource {
  id: string;
  comparisonId: string;
  chainId: string | null;
  audioId: number;
  fileName: string;
  state: Take['state'];
  facts: StoredFacts | null;
  channels: number[] | null;
  sourceId: string;
  programme: string;
  detail: string;
}

export async function findTake(db: Db, id: string): Promise<TakeSource | null> {
  const [row] = await db.rows<TakeSource>(
    `SELECT id, comparison_id AS "comparisonId", chain_id AS "chainId", audio_id AS "audioId",
       file_name AS "fileName", state, facts, channels, source_id AS "sourceId", programme, detail
     FROM take WHERE id = $1`,
    [id],
  );
  return row ? withFacts(row) : null;
}

/** A take that was measured by an older version, whichever comes first after another. */
export async function findStale(db: Db, after: string): Promise<{ id: string } | null> {
  const [row] = await db.rows<{ id: string }>(
    `SELECT id FROM take WHERE state = 'ready' AND id > $1
       AND coalesce((facts->>'version')::int, 1) < $2 ORDER BY id LIMIT 1`,
    [after, FACTS_VERSION],
  );
  return row ?? null;
}

/** Puts what was measured again in the place of what an older version measured. @returns whether it was there */
export async function replaceFacts(
  db: Db,
  id: string,
  facts: StoredFacts,
  peaks: Buffer,
): Promise<boolean> {
  const rows = await db.rows(
    `UPDATE take SET facts = $2, peaks = $3 WHERE id = $1 AND state = 'ready' RETURNING id`,
    [id, JSON.stringify(facts), peaks],
  );
  return rows.length > 0;
}

export async function takePeaks(db: Db, id: string): Promise<Buffer | null> {
  const [row] = await db.rows<{ peaks: Buffer | null }>('SELECT peaks FROM take WHERE id = $1', [
    id,
  ]);
  return row?.peaks ?? null;
}

/** A finished take of these bytes and channels, other than `except`. */
export async function findByAudio(
  db: Db,
  comparisonId: string,
  audioId: number,
  channels: number[] | null,
  except: string,
): Promise<string | null> {
  const [row] = await db.rows<{ file_name: string }>(
    `SELECT file_name FROM take
     WHERE comparison_id = $1 AND audio_id = $2 AND state = 'ready' AND id <> $3
       AND channels IS NOT DISTINCT FROM $4::integer[]`,
    [comparisonId, audioId, except, channels],
  );
  return row?.file_name ?? null;
}

/** A finished take of these samples and channels in another file, other than `except`. */
export async function findBySound(
  db: Db,
  comparisonId: string,
  soundSha256: string,
  channels: number[] | null,
  except: string,
): Promise<string | null> {
  const [row] = await db.rows<{ file_name: string }>(
    `SELECT file_name FROM take
     WHERE comparison_id = $1 AND facts->>'soundSha256' = $2 AND state = 'ready' AND id <> $3
       AND channels IS NOT DISTINCT FROM $4::integer[]`,
    [comparisonId, soundSha256, except, channels],
  );
  return row?.file_name ?? null;
}

/** Lets takes and finished uploads follow when their bytes turned out to be stored already. */
export async function moveAudio(db: Db, from: number, to: number): Promise<void> {
  await db.rows('UPDATE take SET audio_id = $2 WHERE audio_id = $1', [from, to]);
  await db.rows('DELETE FROM upload WHERE audio_id = $1', [from]);
}

export async function finishTake(
  db: Db,
  id: string,
  outcome:
    | { state: 'ready'; facts: StoredFacts; peaks: Buffer }
    | { state: 'refused' | 'duplicate'; remark: string },
): Promise<void> {
  if (outcome.state === 'ready') {
    await db.rows(
      `UPDATE take SET state = 'ready', facts = $2, peaks = $3, remark = NULL WHERE id = $1`,
      [id, JSON.stringify(outcome.facts), outcome.peaks],
    );
  } else {
    await db.rows('UPDATE take SET state = $2, remark = $3, chain_id = NULL WHERE id = $1', [
      id,
      outcome.state,
      outcome.remark,
    ]);
  }
}

/** Changes what is given of some takes; a take that moves to another chain or source is not picked there. */
export async function updateTakes(
  db: Db,
  ids: readonly string[],
  change: {
    chainId?: string | null;
    sourceId?: string;
    programme?: string;
    detail?: string;
    performance?: number | null;
  },
): Promise<void> {
  await db.rows(
    `UPDATE take SET
       chain_id = CASE WHEN $2 THEN $3::uuid ELSE chain_id END,
       source_id = coalesce($4, source_id),
       programme = coalesce($5, programme), detail = coalesce($6, detail),
       performance = CASE WHEN $7 THEN $8::smallint WHEN $4 IS NULL THEN performance END,
       picked = picked AND NOT $2 AND $4 IS NULL AND coalesce($5, 'performance') = 'performance',
       nearest = nearest AND NOT $2 AND $4 IS NULL AND coalesce($5, 'performance') = 'performance',
       foremost = foremost AND NOT $2 AND $4 IS NULL AND coalesce($5, 'performance') = 'performance',
       relation = CASE WHEN $4 IS NULL THEN relation END
     WHERE id = ANY($1::uuid[])`,
    [
      ids,
      change.chainId !== undefined,
      change.chainId ?? null,
      change.sourceId ?? null,
      change.programme ?? null,
      change.detail ?? null,
      change.performance !== undefined,
      change.performance ?? null,
    ],
  );
}

/** Makes a take the one of its chain and source that clips are made of. */
/** Takes that were recorded one after another, with their peaks: performances that are ready and have a chain. */
export async function repeatedTakes(
  db: Db,
  comparisonId: string,
): Promise<
  {
    id: string;
    chainId: string;
    sourceId: string;
    peaks: Buffer | null;
    facts: StoredFacts | null;
  }[]
> {
  const rows = await db.rows<{
    id: string;
    chainId: string;
    sourceId: string;
    peaks: Buffer | null;
    facts: unknown;
  }>(
    `SELECT take.id, chain_id AS "chainId", source_id AS "sourceId", peaks, facts
     FROM take JOIN source ON source.id = source_id
     WHERE take.comparison_id = $1 AND capture = 'one after another' AND state = 'ready'
       AND programme = 'performance' AND chain_id IS NOT NULL
     ORDER BY created_at, take.id`,
    [comparisonId],
  );
  return rows.map(withFacts);
}

/**
 * Test sounds that chains recorded, the oldest first, with the loudness of their loudest three seconds: the silence
 * around a sound, which a gate counts in part, is in none of those.
 */
export async function testSounds(
  db: Db,
  comparisonId: string,
): Promise<{ chainId: string; sourceId: string; lufs: number }[]> {
  return db.rows(
    `SELECT chain_id AS "chainId", source_id AS "sourceId",
       (facts #>> '{measurement,shortTermMaxLufs}')::float8 AS lufs
     FROM take WHERE comparison_id = $1 AND state = 'ready' AND programme = 'tone' AND detail = ''
       AND chain_id IS NOT NULL AND facts #>> '{measurement,shortTermMaxLufs}' IS NOT NULL
     ORDER BY created_at, id`,
    [comparisonId],
  );
}

/** These of a comparison's takes are what clips are made of unless somebody chooses; no others are. */
export async function setUsual(
  tx: Tx,
  comparisonId: string,
  kind: 'nearest' | 'foremost',
  takeIds: readonly string[],
): Promise<void> {
  await tx.rows(
    `UPDATE take SET ${kind} = id = ANY ($2::uuid[])
     WHERE comparison_id = $1 AND ${kind} <> (id = ANY ($2::uuid[]))`,
    [comparisonId, takeIds],
  );
}

export async function pickTake(
  db: Db,
  take: Pick<TakeSource, 'id' | 'chainId' | 'sourceId'>,
): Promise<void> {
  await db.rows(
    `UPDATE take SET picked = false
     WHERE chain_id = $1 AND source_id = $2 AND picked`,
    [take.chainId, take.sourceId],
  );
  await db.rows('UPDATE take SET picked = true WHERE id = $1', [take.id]);
}

export async function updateReferenceAlignment(
  db: Db,
  id: string,
  alignment: ReferenceAlignment | null,
): Promise<void> {
  await db.rows('UPDATE take SET relation = $2 WHERE id = $1', [
    id,
    alignment && JSON.stringify(alignment),
  ]);
}

export async function putOverride(
  db: Db,
  override: { takeId: string; check: string; accountId: string; reason: string | null },
  at: Date,
): Promise<void> {
  const { takeId, check, accountId, reason } = override;
  if (reason === null) {
    await db.rows('DELETE FROM check_override WHERE take_id = $1 AND check_name = $2', [
      takeId,
      check,
    ]);
    return;
  }
  await db.rows(
    `INSERT INTO check_override (take_id, check_name, account_id, reason, decided_at)
     VALUES ($1, $2, $3, $4, $5)
     ON CONFLICT (take_id, check_name) DO UPDATE SET reason = $4, account_id = $3, decided_at = $5`,
    [takeId, check, accountId, reason, at],
  );
}

export async function insertArchive(
  db: Db,
  archive: { comparisonId: string; audioId: number; fileName: string; pattern: string },
  at: Date,
): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO archive (comparison_id, audio_id, file_name, pattern, created_at)
     VALUES ($1, $2, $3, $4, $5) RETURNING id`,
      [archive.comparisonId, archive.audioId, archive.fileName, archive.pattern, at],
    ),
  );
  return id;
}

export interface ArchiveSource extends Archive {
  comparisonId: string;
  audioId: number;
  pattern: string;
}

export async function findArchive(db: Db, id: string): Promise<ArchiveSource | null> {
  const [row] = await db.rows<ArchiveSource>(
    `SELECT id, comparison_id AS "comparisonId", audio_id AS "audioId", file_name AS "fileName",
       pattern, state, remark FROM archive WHERE id = $1`,
    [id],
  );
  return row ?? null;
}

/** Archives that still have something to say. */
export async function listArchives(db: Db, comparisonId: string): Promise<Archive[]> {
  return db.rows<Archive>(
    `SELECT id, file_name AS "fileName", state, remark FROM archive
     WHERE comparison_id = $1 AND (state <> 'ready' OR remark IS NOT NULL) ORDER BY created_at`,
    [comparisonId],
  );
}

export async function finishArchive(
  db: Db,
  id: string,
  state: Archive['state'],
  remark: string | null,
): Promise<void> {
  await db.rows('UPDATE archive SET state = $2, remark = $3 WHERE id = $1', [id, state, remark]);
}

/** An archive with its bytes: what was in it stands on its own. */
export async function deleteArchive(db: Db, id: string, audioId: number): Promise<void> {
  await db.rows('DELETE FROM archive WHERE id = $1', [id]);
  await dropAudio(db, audioId);
}

export async function isUsed(db: Db, id: string): Promise<boolean> {
  return (await db.rows('SELECT 1 FROM take_use WHERE take_id = $1 LIMIT 1', [id])).length > 0;
}

/** Takes of a chain that goes stay without one, and remember it for undoing. */
export async function letTakesGo(db: Db, comparisonId: string, chainId: string): Promise<void> {
  await db.rows(
    `UPDATE take SET chain_id = NULL, picked = false, nearest = false, foremost = false, former_chain_id = $1
     WHERE chain_id = $1 AND comparison_id = $2`,
    [chainId, comparisonId],
  );
}

/** Takes of a chain that comes back, unless another one has them by now. */
export async function takeBack(db: Db, comparisonId: string, chainId: string): Promise<void> {
  await db.rows(
    `UPDATE take SET chain_id = $2
     WHERE former_chain_id = $2 AND comparison_id = $1 AND chain_id IS NULL`,
    [comparisonId, chainId],
  );
}

/** Uploads begun before a day and never finished, with their bytes. */
export async function deleteStaleUploads(db: Db, before: Date): Promise<number> {
  const rows = await db.rows<{ audio_id: number }>(
    `DELETE FROM upload WHERE created_at < $1 AND received < byte_length RETURNING audio_id`,
    [before],
  );
  const ids = rows.map(({ audio_id: id }) => id);
  await dropUnfinishedAudio(db, ids);
  return rows.length;
}

/** Removes a take, and its bytes when nothing else has them. */
export async function deleteTake(db: Db, id: string, audioId: number): Promise<void> {
  await db.rows('DELETE FROM take WHERE id = $1', [id]);
  await dropAudio(db, audioId);
}

/** Takes a take out of the comparison and keeps it as it stood, with its sound. */
export async function binTake(tx: Tx, id: string, at: Date): Promise<void> {
  await tx.rows(
    `INSERT INTO removed_take (id, comparison_id, audio_id, file_name, row, overrides, deleted_at)
     SELECT id, comparison_id, audio_id, file_name, to_jsonb(take),
       coalesce((SELECT jsonb_agg(to_jsonb(check_override)) FROM check_override WHERE take_id = take.id), '[]'), $2
     FROM take WHERE id = $1`,
    [id, at],
  );
  await tx.rows('DELETE FROM take WHERE id = $1', [id]);
}

/**
 * Puts a removed take back: to its chain where that still stands, to its source or, where that is gone, to the first.
 * @returns whether there was one
 */
export async function unbinTake(tx: Tx, comparisonId: string, id: string): Promise<boolean> {
  const rows = await tx.rows(
    `INSERT INTO take SELECT (jsonb_populate_record(NULL::take, row || jsonb_build_object(
         'chain_id', (SELECT id FROM chain WHERE id = (row->>'chain_id')::uuid AND deleted_at IS NULL),
         'former_chain_id', (SELECT id FROM chain WHERE id = coalesce(row->>'chain_id', row->>'former_chain_id')::uuid),
         'source_id', coalesce((SELECT id FROM source WHERE id = (row->>'source_id')::uuid),
           (SELECT id FROM source WHERE source.comparison_id = $1 ORDER BY position LIMIT 1)),
         'picked', false, 'nearest', false, 'foremost', false))).*
       FROM removed_take WHERE comparison_id = $1 AND id = $2
     RETURNING id`,
    [comparisonId, id],
  );
  if (rows.length === 0) return false;
  await tx.rows(
    `INSERT INTO check_override SELECT said.* FROM removed_take,
       jsonb_populate_recordset(NULL::check_override, overrides) AS said WHERE removed_take.id = $1`,
    [id],
  );
  await tx.rows('DELETE FROM removed_take WHERE id = $1', [id]);
  return true;
}

/** Erases what was removed before a day, with sound that nothing else has. */
export async function eraseRemovedTakes(tx: Tx, before: Date): Promise<void> {
  const gone = await tx.rows<{ id: number }>(
    'DELETE FROM removed_take WHERE deleted_at < $1 RETURNING audio_id::float8 AS id',
    [before],
  );
  for (const { id } of gone) await dropUnusedAudio(tx, id);
}

/** Bytes that nothing else has. */
async function dropAudio(db: Db, audioId: number): Promise<void> {
  await db.rows('DELETE FROM upload WHERE audio_id = $1', [audioId]);
  await dropUnusedAudio(db, audioId);
}

/** Puts other bytes in the place of a take's: what was decoded from them. */
export async function replaceAudio(
  db: Db,
  id: string,
  before: number,
  audioId: number,
): Promise<void> {
  await db.rows('UPDATE take SET audio_id = $2 WHERE id = $1', [id, audioId]);
  await dropAudio(db, before);
}
