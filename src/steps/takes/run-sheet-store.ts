import type { ProgrammeId } from '@/core/checks/programme';
import type { Db, Tx } from '@/platform/database';
import { one } from '@/platform/one';
import { type LoggedLine, type OtherWriting, otherWriting } from './log-entry';

export interface RunLine {
  id: string;
  day: number;
  chainId: string;
  chainName: string;
  sourceId: string;
  sourceName: string;
  programme: ProgrammeId;
  detail: string;
  takeNumber: number;
  /** Recorded with the lines beside it that are of the same time. */
  atOnce: boolean;
  plannedGainDb: number | null;
  plannedDistanceM: number | null;
  minutes: number;
  done: boolean;
  gainDb: number | null;
  /** Where a knob without a scale stood. */
  knob: string;
  distanceM: number | null;
  remark: string;
  writtenAt: Date | null;
  /** What another device wrote in it and lost. */
  other: OtherWriting | null;
}

export type NewLine = Omit<
  RunLine,
  | 'id'
  | 'chainName'
  | 'done'
  | 'gainDb'
  | 'knob'
  | 'distanceM'
  | 'remark'
  | 'writtenAt'
  | 'other'
  | 'sourceName'
>;

/** Writes a sheet in place of the one that was there. */
export async function replaceLines(
  tx: Tx,
  comparisonId: string,
  lines: readonly NewLine[],
): Promise<void> {
  await deleteLines(tx, comparisonId);
  await tx.rows(
    `INSERT INTO run_line (comparison_id, day, position, chain_id, source_id, programme, detail,
       take_number, at_once, planned_gain_db, planned_distance_m, minutes)
     SELECT $1, day, ordinality - 1, "chainId", "sourceId", programme, detail, "takeNumber",
       "atOnce", "plannedGainDb", "plannedDistanceM", minutes
     FROM ROWS FROM (jsonb_to_recordset($2::jsonb) AS (day int, "chainId" uuid, "sourceId" uuid,
       programme text, detail text, "takeNumber" int, "atOnce" boolean, "plannedGainDb" float8,
       "plannedDistanceM" float8, minutes float8)) WITH ORDINALITY`,
    [comparisonId, JSON.stringify(lines)],
  );
}

export async function listLines(from: Db, comparisonId: string): Promise<RunLine[]> {
  const rows = await from.rows<RunLine>(
    `SELECT run_line.id, day, chain_id AS "chainId", chain.name AS "chainName",
       source_id AS "sourceId", source.name AS "sourceName", programme, detail,
       take_number AS "takeNumber", at_once AS "atOnce", planned_gain_db AS "plannedGainDb",
       planned_distance_m AS "plannedDistanceM", minutes, done, gain_db AS "gainDb", knob,
       run_line.distance_m AS "distanceM", remark, written_at AS "writtenAt", other
     FROM run_line JOIN chain ON chain.id = chain_id
       JOIN source ON source.id = source_id
     WHERE run_line.comparison_id = $1 AND (chain.deleted_at IS NULL OR done)
     ORDER BY day, run_line.position`,
    [comparisonId],
  );
  return rows.map((row) => ({ ...row, other: otherWriting.nullable().parse(row.other) }));
}

/**
 * Gains that were written down of lines that are done, for a step of a source; the latest first. Of a knob's position
 * the gain is known where a data sheet in the chain says it.
 */
export async function writtenGains(
  from: Db,
  comparisonId: string,
  of: { sourceId: string; programme: ProgrammeId; detail: string },
): Promise<{ chainId: string; takeNumber: number; gainDb: number | null; knob: string }[]> {
  return from.rows(
    `SELECT chain_id AS "chainId", take_number AS "takeNumber", knob, coalesce(gain_db, (
       SELECT (mark->>'gainDb')::float8 FROM chain_item JOIN gear ON gear.id = gear_id
         CROSS JOIN jsonb_array_elements(specs->'knob') AS mark
       WHERE chain_item.chain_id = run_line.chain_id AND lower(mark->>'position') = lower(knob) LIMIT 1)) AS "gainDb"
     FROM run_line
     WHERE run_line.comparison_id = $1 AND source_id = $2 AND programme = $3 AND detail = $4 AND done
       AND (gain_db IS NOT NULL OR knob <> '')
     ORDER BY written_at DESC NULLS LAST, run_line.position DESC`,
    [comparisonId, of.sourceId, of.programme, of.detail],
  );
}

export async function deleteLines(db: Db, comparisonId: string): Promise<void> {
  await db.rows('DELETE FROM run_line WHERE comparison_id = $1', [comparisonId]);
}

/** What is logged in these lines, held until the end of the transaction. */
export async function holdLines(
  tx: Tx,
  comparisonId: string,
  ids: readonly string[],
): Promise<LoggedLine[]> {
  const rows = await tx.rows<LoggedLine>(
    `SELECT id, done, gain_db AS "gainDb", knob, distance_m AS "distanceM", remark,
       written_at AS "writtenAt", written_by AS "writtenBy", other
     FROM run_line WHERE comparison_id = $1 AND id = ANY ($2::uuid[]) ORDER BY id FOR UPDATE`,
    [comparisonId, ids],
  );
  return rows.map((row) => ({ ...row, other: otherWriting.nullable().parse(row.other) }));
}

export async function writeLines(tx: Tx, lines: readonly LoggedLine[]): Promise<void> {
  await tx.rows(
    `UPDATE run_line SET done = entry.done, gain_db = entry."gainDb", knob = entry.knob,
       distance_m = entry."distanceM", remark = entry.remark, written_at = entry."writtenAt",
       written_by = entry."writtenBy", other = entry.other
     FROM jsonb_to_recordset($1::jsonb) AS entry (id uuid, done boolean, "gainDb" float8, knob text,
       "distanceM" float8, remark text, "writtenAt" timestamptz, "writtenBy" text, other jsonb)
     WHERE run_line.id = entry.id`,
    [JSON.stringify(lines)],
  );
}

/** How much of the run sheet is done. */
export async function runSheetCounts(
  db: Db,
  comparisonId: string,
): Promise<{ lines: number; done: number; minutes: number }> {
  const row = await one(
    db.rows<{ lines: number; done: number; minutes: number }>(
      `SELECT count(*) AS lines, count(*) FILTER (WHERE done) AS done,
       coalesce(sum(minutes), 0) AS minutes FROM run_line WHERE comparison_id = $1`,
      [comparisonId],
    ),
  );
  return row;
}
