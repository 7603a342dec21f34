import { z } from 'zod';
import { PROGRAM } from '@/core/version';
import { carriedAccounts, carriedRows, carriedSounds } from '@/platform/carried';
import type { Tx } from '@/platform/database';
import { one } from '@/platform/one';
import { CARRIED_COMPARISON } from '@/steps/comparisons/carried';
import { CARRIED } from './tables';

/** Folder of the archive that another bank reads. */
export const BANK = 'bank/';
export const MANIFEST = `${BANK}manifest.json`;
export const SUMS = 'SHA256SUMS';
export const rowsFile = (table: string) => `${BANK}${table}.jsonl`;

/** What the folder says of itself. */
export const manifestShape = z.object({
  format: z.literal('zeitbank comparison rows 1'),
  program: z.string(),
  /** Newest step of the schema that the rows are of. */
  schema: z.string().max(200),
  accounts: z.array(z.object({ id: z.uuid(), name: z.string().min(1).max(80) })).max(1000),
  /** Each sound that rows have, by the id that they call it; where it lies. */
  sounds: z
    .array(
      z.object({
        id: z.int(),
        sha256: z.string().regex(/^[0-9a-f]{64}$/),
        file: z.string().max(600),
      }),
    )
    .max(20_000),
});
export type Manifest = z.infer<typeof manifestShape>;

/** Newest step of this bank's schema. */
export async function schemaOf(tx: Tx): Promise<string> {
  const { name } = await one(
    tx.rows<{ name: string }>('SELECT name FROM migration ORDER BY id DESC LIMIT 1'),
  );
  return name;
}

/** Sound that lies in no folder for people: what levels are set with. */
export interface MoreSound {
  name: string;
  audioId: number;
  bytes: number;
}

/** @param files where sound lies in the archive already */
export async function manifestOf(
  tx: Tx,
  comparisonId: string,
  files: readonly { name: string; audioId: number }[],
): Promise<{ manifest: Manifest; more: MoreSound[] }> {
  const lying = new Map(files.map(({ name, audioId }) => [audioId, name]));
  const more: MoreSound[] = [];
  const sounds = await carriedSounds(tx, CARRIED, comparisonId);
  const manifest: Manifest = {
    format: 'zeitbank comparison rows 1',
    program: PROGRAM,
    schema: await schemaOf(tx),
    accounts: await carriedAccounts(tx, CARRIED, comparisonId),
    sounds: sounds.map(({ id, sha256, bytes }) => {
      const file = lying.get(id) ?? `${BANK}sounds/${sha256}.wav`;
      if (!lying.has(id)) more.push({ name: file, audioId: id, bytes });
      return { id, sha256, file };
    }),
  };
  return { manifest, more };
}

/** Rows of each table, one JSON object a line; of no table more than some rows are held. */
export function* rowFiles(
  tx: Tx,
  comparisonId: string,
): Generator<{ name: string; lines: AsyncGenerator<string> }> {
  for (const table of [CARRIED_COMPARISON, ...CARRIED]) {
    yield { name: rowsFile(table.table), lines: carriedRows(tx, table, comparisonId) };
  }
}
