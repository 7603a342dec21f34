import { TIMELESS_IDS } from '@/core/checks/programme';
import type { ClipSpectra } from '@/core/spectrum/clip-spectra';
import type { Db, Tx } from '@/platform/database';
import { one } from '@/platform/one';
import {
  type AlignmentChange,
  type Clip,
  type ClipSet,
  type MatchOrder,
  type PassageTake,
  type Recipe,
  storedRecipe,
} from './schema';
import {
  type ClipSetFacts,
  SPECTRA_VERSION,
  storedDetails,
  storedSpectra,
  storedSetFacts,
} from './stored';

const SET_COLUMNS = `id, passage_id AS "passageId", context, recipe, method,
  reference_chain_id AS "referenceChainId", passage_from_s AS "passageFromS",
  passage_to_s AS "passageToS", state, remark, facts, created_at AS "createdAt",
  (SELECT count(DISTINCT sitting_id) FROM clip_set_use WHERE clip_set_id = clip_set.id) AS sittings`;

function read<T extends ClipSet>(row: T): T {
  return {
    ...row,
    recipe: storedRecipe.parse(row.recipe),
    facts: storedSetFacts.nullable().parse(row.facts),
  };
}

export async function insertClipSet(
  db: Db,
  comparisonId: string,
  order: Pick<MatchOrder, 'method' | 'referenceChainId' | 'passageId'> & {
    fromS: number;
    toS: number;
    recipe: Recipe;
  },
  at: Date,
): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO clip_set (comparison_id, method, reference_chain_id, passage_id, context, recipe,
       passage_from_s, passage_to_s, created_at) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)
     RETURNING id`,
      [
        comparisonId,
        order.method,
        order.referenceChainId,
        order.passageId,
        order.recipe.context.kind,
        JSON.stringify(order.recipe),
        order.fromS,
        order.toS,
        at,
      ],
    ),
  );
  return id;
}

/** In each of many comparisons, how its clips stand; those without any are left out. */
export async function clipSetStates(
  db: Db,
  comparisonIds: readonly string[],
): Promise<
  { comparisonId: string; sets: number; worstResidualLu: number | null; being: boolean }[]
> {
  return db.rows(
    `SELECT comparison_id AS "comparisonId", count(*)::int AS sets, bool_or(state = 'waiting') AS being,
       (array_agg((facts->>'worstResidualLu')::float8 ORDER BY created_at DESC, id)
          FILTER (WHERE state = 'ready'))[1] AS "worstResidualLu"
     FROM clip_set WHERE comparison_id = ANY ($1::uuid[]) GROUP BY comparison_id`,
    [comparisonIds],
  );
}

/** All sets of a comparison, the newest first. */
export async function listClipSets(db: Db, comparisonId: string): Promise<ClipSet[]> {
  const rows = await db.rows<ClipSet>(
    `SELECT ${SET_COLUMNS} FROM clip_set WHERE comparison_id = $1 ORDER BY created_at DESC, id`,
    [comparisonId],
  );
  return rows.map(read);
}

export async function findClipSet(
  db: Db,
  id: string,
): Promise<(ClipSet & { comparisonId: string }) | null> {
  const [row] = await db.rows<ClipSet & { comparisonId: string }>(
    `SELECT ${SET_COLUMNS}, comparison_id AS "comparisonId" FROM clip_set WHERE id = $1`,
    [id],
  );
  return row ? read(row) : null;
}

export async function listClips(db: Db, clipSetId: string): Promise<Clip[]> {
  const rows = await db.rows<Clip>(
    `SELECT clip.chain_id AS "chainId", take_id AS "takeId", file_name AS "fileName", delay_samples AS "delaySamples",
       polarity_inverted AS "polarityInverted", coherence, gain_db AS "gainDb",
       before_lufs AS "beforeLufs", after_lufs AS "afterLufs", residual_lu AS "residualLu",
       true_peak_dbtp AS "truePeakDbtp", before_rms_dbfs AS "beforeRmsDbfs", pictures AS spectra, clip.details
     FROM clip JOIN chain ON chain.id = clip.chain_id JOIN take ON take.id = clip.take_id
     WHERE clip_set_id = $1 ORDER BY chain.position`,
    [clipSetId],
  );
  return rows.map((row) => ({
    ...row,
    spectra: storedSpectra.nullable().parse(row.spectra),
    details: storedDetails.parse(row.details),
  }));
}

/** Of a set that an older version pictured, its clips in order; null after the last. */
export async function nextToPicture(
  db: Db,
  after: string,
): Promise<{
  id: string;
  comparisonId: string;
  clips: { chainId: string; audioId: number; reference: boolean }[];
} | null> {
  const [row] = await db.rows<Awaited<ReturnType<typeof nextToPicture>>>(
    `SELECT clip_set.id, clip_set.comparison_id AS "comparisonId",
       jsonb_agg(jsonb_build_object('chainId', chain_id, 'audioId', master_audio_id,
         'reference', chain_id = reference_chain_id)) AS clips
     FROM clip_set JOIN clip ON clip.clip_set_id = clip_set.id
     WHERE clip_set.id = (
       SELECT clip_set_id FROM clip
       WHERE clip_set_id > $1::uuid AND coalesce((pictures->>'version')::int, 0) < $2
       ORDER BY clip_set_id LIMIT 1)
     GROUP BY clip_set.id`,
    [after, SPECTRA_VERSION],
  );
  return row ?? null;
}

export async function putSpectra(
  db: Db,
  clipSetId: string,
  chainId: string,
  spectra: ClipSpectra,
): Promise<void> {
  await db.rows('UPDATE clip SET pictures = $3 WHERE clip_set_id = $1 AND chain_id = $2', [
    clipSetId,
    chainId,
    spectraText(spectra),
  ]);
}

function spectraText(spectra: ClipSpectra): string {
  return JSON.stringify({ version: SPECTRA_VERSION, ...spectra });
}

export async function insertClip(
  db: Db,
  set: { id: string; comparisonId: string },
  clip: Omit<Clip, 'fileName'> & { masterAudioId: number },
): Promise<void> {
  await db.rows(
    `INSERT INTO clip (clip_set_id, comparison_id, chain_id, take_id, master_audio_id, delay_samples,
       polarity_inverted, coherence, gain_db, before_lufs, after_lufs, residual_lu, true_peak_dbtp,
       before_rms_dbfs, pictures, details)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16)`,
    [
      set.id,
      set.comparisonId,
      clip.chainId,
      clip.takeId,
      clip.masterAudioId,
      clip.delaySamples,
      clip.polarityInverted,
      clip.coherence,
      clip.gainDb,
      clip.beforeLufs,
      clip.afterLufs,
      clip.residualLu,
      clip.truePeakDbtp,
      clip.beforeRmsDbfs,
      clip.spectra && spectraText(clip.spectra),
      JSON.stringify(clip.details),
    ],
  );
}

export async function insertTrainingClip(
  db: Db,
  clipSetId: string,
  variant: number,
  masterAudioId: number,
): Promise<void> {
  await db.rows(
    'INSERT INTO settling_clip (clip_set_id, variant, master_audio_id) VALUES ($1, $2, $3)',
    [clipSetId, variant, masterAudioId],
  );
}

export async function finishClipSet(
  db: Db,
  id: string,
  outcome: { state: 'ready'; facts: ClipSetFacts } | { state: 'failed'; remark: string },
): Promise<void> {
  const ready = outcome.state === 'ready';
  await db.rows('UPDATE clip_set SET state = $2, facts = $3, remark = $4 WHERE id = $1', [
    id,
    outcome.state,
    ready ? JSON.stringify(outcome.facts) : null,
    ready ? null : outcome.remark,
  ]);
}

/**
 * One take of each chain that has some of a passage's source and step: the picked one, else the usual one, else the oldest. One
 * after another it is usual to take those nearest to each other; else those of the performance that most chains recorded.
 * @param named takes of that source that are read as well, whatever they are of
 */
export async function takesOfPassage(
  db: Db,
  comparisonId: string,
  passageId: string,
  named: readonly string[],
): Promise<{ fitting: PassageTake[]; named: PassageTake[] }> {
  const rows = await db.rows<PassageTake & { fits: boolean; rank: number }>(
    `SELECT "takeId", "chainId", "audioId", channels, "delayMs", number, fits, rank,
       -- Steady noise is laid by nothing. Another take of a chain than the one in use was played another time, unless it holds the same waveform, as
       -- a file that was rendered from it does; so was, one after another, what does not hold the reference's.
       coalesce(alignment, CASE WHEN timeless THEN 'hand' WHEN (fits AND rank > 1 AND NOT coalesce(like_used, false)) OR foreign_waveform
         THEN 'onset' ELSE 'performance' END) AS alignment
     FROM (
       SELECT own.*, held IN (first_value("takeId"::text) OVER usual_first, first_value(held) OVER usual_first) AS like_used,
         row_number() OVER (PARTITION BY "chainId", fits ORDER BY created_at, "takeId")::int AS number,
         (row_number() OVER usual_first)::int AS rank
       FROM (
         SELECT take.id AS "takeId", take.chain_id AS "chainId", audio_id AS "audioId", channels,
           alignment,
           -- The take whose waveform it holds.
           CASE WHEN relation ->> 'onsetDelayS' IS NULL THEN relation ->> 'referenceTakeId' END AS held,
           capture = 'one after another' AND relation ->> 'onsetDelayS' IS NOT NULL AS foreign_waveform,
           passage.programme = ANY ($4::text[]) AS timeless, coalesce(delay_ms, 0) AS "delayMs", picked,
           CASE capture WHEN 'one after another' THEN nearest ELSE foremost END AS usual,
           take.programme = passage.programme
             AND (passage.programme = 'performance' OR take.detail = passage.detail) AS fits, take.created_at
         FROM take JOIN passage ON passage.id = $2 JOIN source ON source.id = take.source_id
           LEFT JOIN take_placing ON take_placing.take_id = take.id AND take_placing.passage_id = $2
         WHERE take.comparison_id = $1 AND take.state = 'ready' AND chain_id IS NOT NULL
           AND take.source_id = passage.source_id
       ) AS own
       WINDOW usual_first AS (PARTITION BY "chainId", fits ORDER BY picked DESC, usual DESC, created_at, "takeId")
     ) AS counted
     WHERE (fits AND rank = 1) OR "takeId" = ANY ($3::uuid[]) ORDER BY "chainId", rank`,
    [comparisonId, passageId, named, TIMELESS_IDS],
  );
  const all = rows.map(({ fits, rank, ...take }) => ({ take, fits, rank }));
  const only = (wanted: (row: (typeof all)[number]) => boolean) =>
    all.filter(wanted).map(({ take }) => take);
  return {
    fitting: only(({ fits, rank }) => fits && rank === 1),
    named: only(({ take }) => named.includes(take.takeId)),
  };
}

/** Whether all of this sound is still of takes of a comparison. */
export async function allThere(
  db: Db,
  comparisonId: string,
  audioIds: readonly number[],
): Promise<boolean> {
  const { there } = await one(
    db.rows<{ there: boolean }>(
      `SELECT NOT EXISTS (SELECT 1 FROM unnest($2::bigint[]) AS wanted (id)
       WHERE NOT EXISTS (SELECT 1 FROM take WHERE comparison_id = $1 AND audio_id = wanted.id)) AS there`,
      [comparisonId, audioIds],
    ),
  );
  return there;
}

/** The backing track of a passage's source: the latest one. */
export async function backingOf(db: Db, passageId: string): Promise<string | null> {
  const [row] = await db.rows<{ id: string }>(
    `SELECT take.id FROM take JOIN passage USING (comparison_id)
     WHERE passage.id = $1 AND take.programme = 'backing' AND state = 'ready'
       AND take.source_id = passage.source_id
     ORDER BY take.created_at DESC LIMIT 1`,
    [passageId],
  );
  return row?.id ?? null;
}

/** Places takes as they were placed in a passage that came back, as far as they are there. */
export async function placeAgain(tx: Tx, placings: unknown): Promise<void> {
  await tx.rows(
    `INSERT INTO take_placing SELECT placed.* FROM jsonb_populate_recordset(NULL::take_placing, $1::jsonb) AS placed
     WHERE EXISTS (SELECT 1 FROM take WHERE take.id = placed.take_id)`,
    [JSON.stringify(placings)],
  );
}

export async function putAlignment(
  db: Db,
  { passageId, takeId, alignment, delayMs }: AlignmentChange,
): Promise<void> {
  await db.rows(
    `INSERT INTO take_placing (passage_id, take_id, alignment, delay_ms) VALUES ($1, $2, $3, $4)
     ON CONFLICT (passage_id, take_id) DO UPDATE SET alignment = $3, delay_ms = $4`,
    [passageId, takeId, alignment, delayMs],
  );
}

/** Takes a set away that could not be made. @returns whether there was one */
export async function deleteFailedSet(db: Db, comparisonId: string, id: string): Promise<boolean> {
  const rows = await db.rows(
    `DELETE FROM clip_set WHERE id = $2 AND comparison_id = $1 AND state = 'failed' RETURNING id`,
    [comparisonId, id],
  );
  return rows.length > 0;
}

export async function clipMaster(
  db: Db,
  clipSetId: string,
  chainId: string,
): Promise<number | null> {
  const [row] = await db.rows<{ id: number }>(
    'SELECT master_audio_id AS id FROM clip WHERE clip_set_id = $1 AND chain_id = $2',
    [clipSetId, chainId],
  );
  return row?.id ?? null;
}
