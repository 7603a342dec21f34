import type { Db, Tx } from '@/platform/database';
import { one } from '@/platform/one';

/** Sound that lies in the bank. */
interface Stored {
  audioId: number;
  bytes: number;
  sha256: string;
}

export interface ArchivedTake extends Stored {
  fileName: string;
  chain: string | null;
  source: string;
  programme: string;
  detail: string;
  channels: number[] | null;
  simulated: boolean;
}

const SOUND = `audio.id AS "audioId", byte_length AS bytes, audio.sha256`;

/** Files that were recorded, as they arrived; those that could not be read are left out. */
export async function takesToKeep(db: Db, comparisonId: string): Promise<ArchivedTake[]> {
  return db.rows<ArchivedTake>(
    `SELECT ${SOUND}, file_name AS "fileName", chain.name AS chain, source.name AS source, take.programme, detail, channels, take.simulated
     FROM take JOIN audio ON audio.id = audio_id JOIN source ON source.id = source_id
     LEFT JOIN chain ON chain.id = chain_id
     WHERE take.comparison_id = $1 AND take.state = 'ready' AND audio.sha256 IS NOT NULL
     ORDER BY take.created_at, file_name, channels`,
    [comparisonId],
  );
}

export interface ArchivedClip extends Stored {
  setId: string;
  source: string;
  passage: string;
  context: string;
  method: string;
  chain: string;
  fileName: string;
  delaySamples: number;
  polarityInverted: boolean;
  gainDb: number;
  afterLufs: number | null;
  residualLu: number;
  truePeakDbtp: number;
}

/** Clips of all sets that were made, set by set. */
export async function clipsToKeep(db: Db, comparisonId: string): Promise<ArchivedClip[]> {
  return db.rows<ArchivedClip>(
    `SELECT ${SOUND}, clip_set.id AS "setId", source.name AS source, passage.name AS passage, context, method,
       chain.name AS chain, file_name AS "fileName", delay_samples AS "delaySamples", polarity_inverted AS "polarityInverted",
       gain_db AS "gainDb", after_lufs AS "afterLufs", residual_lu AS "residualLu", true_peak_dbtp AS "truePeakDbtp"
     FROM clip_set JOIN passage ON passage.id = passage_id JOIN source ON source.id = passage.source_id
     JOIN clip ON clip_set_id = clip_set.id JOIN chain ON chain.id = clip.chain_id JOIN take ON take.id = take_id
     JOIN audio ON audio.id = clip.master_audio_id
     WHERE clip_set.comparison_id = $1 AND clip_set.state = 'ready' AND audio.sha256 IS NOT NULL
     ORDER BY clip_set.created_at, clip_set.id, chain.position`,
    [comparisonId],
  );
}

/** Whether nothing was done in a comparison yet, beside its question. */
export async function untouched(tx: Tx, comparisonId: string): Promise<boolean> {
  const rows = await tx.rows(
    `SELECT 1 FROM chain WHERE comparison_id = $1 UNION ALL SELECT 1 FROM take WHERE comparison_id = $1
     UNION ALL SELECT 1 FROM removed_take WHERE comparison_id = $1 UNION ALL SELECT 1 FROM run_line WHERE comparison_id = $1
     UNION ALL SELECT 1 FROM sitting WHERE comparison_id = $1 LIMIT 1`,
    [comparisonId],
  );
  return rows.length === 0;
}

export async function studioOf(tx: Tx, comparisonId: string): Promise<string> {
  const { id } = await one(
    tx.rows<{ id: string }>('SELECT owner_id AS id FROM comparison WHERE id = $1', [comparisonId]),
  );
  return id;
}

/** Closed sittings of the panel, whose answers are to be read. */
export async function sittingsToRead(tx: Tx, comparisonId: string): Promise<string[]> {
  const rows = await tx.rows<{ id: string }>(
    `SELECT id FROM sitting WHERE comparison_id = $1 AND state = 'closed' AND purpose = 'panel' ORDER BY closed_at`,
    [comparisonId],
  );
  return rows.map(({ id }) => id);
}
