import { z } from 'zod';
import type { Db } from '@/platform/database';

export interface BlindPack {
  id: string;
  clipSetId: string;
  question: string;
  seal: string;
  createdAt: Date;
  openedAt: Date | null;
}

const wordsByChain = z.record(z.uuid(), z.string());
const packSeeds = z.object({ trial: z.string(), clips: wordsByChain });

export interface StoredPack extends BlindPack {
  keyDocument: string;
  /** Code words by the id of the chain. */
  words: Record<string, string>;
  /** What its copies are drawn from: one for the pack, one for each clip by the id of the chain. */
  seeds: z.infer<typeof packSeeds>;
}

const SHOWN = `id, clip_set_id AS "clipSetId", question, seal, created_at AS "createdAt",
  opened_at AS "openedAt"`;

/** Packs as the engineer may see them: without their keys. */
export async function listPacks(db: Db, comparisonId: string): Promise<BlindPack[]> {
  return db.rows<BlindPack>(
    `SELECT ${SHOWN} FROM blind_pack WHERE comparison_id = $1 ORDER BY created_at DESC`,
    [comparisonId],
  );
}

export async function findPack(
  db: Db,
  comparisonId: string,
  id: string,
): Promise<StoredPack | null> {
  const [row] = await db.rows<StoredPack>(
    `SELECT ${SHOWN}, key_document AS "keyDocument", words, seeds FROM blind_pack
     WHERE id = $1 AND comparison_id = $2`,
    [id, comparisonId],
  );
  return row
    ? { ...row, words: wordsByChain.parse(row.words), seeds: packSeeds.parse(row.seeds) }
    : null;
}

export async function insertPack(
  db: Db,
  comparisonId: string,
  pack: Omit<StoredPack, 'createdAt' | 'openedAt'>,
  at: Date,
): Promise<void> {
  await db.rows(
    `INSERT INTO blind_pack (id, comparison_id, clip_set_id, question, seal, key_document, words, seeds,
       created_at) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
    [
      pack.id,
      comparisonId,
      pack.clipSetId,
      pack.question,
      pack.seal,
      pack.keyDocument,
      JSON.stringify(pack.words),
      JSON.stringify(pack.seeds),
      at,
    ],
  );
}

/** Records when the key was handed out first. */
export async function markPackOpened(db: Db, id: string, at: Date): Promise<void> {
  await db.rows('UPDATE blind_pack SET opened_at = $2 WHERE id = $1 AND opened_at IS NULL', [
    id,
    at,
  ]);
}
