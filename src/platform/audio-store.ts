import { createHash } from 'node:crypto';
import type pg from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import type { ByteSource } from '@/core/wav/format';
import { type Db, pool, type Tx } from './database';
import { requireSpace } from './disk-space';
import { one } from './one';

export const CHUNK_BYTES = 1 << 20;
/** Chunks fetched together when sound is read in order. */
const READ_AHEAD = 8;

/** Makes room for sound that will arrive piece by piece. */
export async function createAudio(db: Db, byteLength: number, at: Date): Promise<number> {
  await requireSpace(byteLength);
  const { id } = await one(
    db.rows<{ id: number }>(
      'INSERT INTO audio (byte_length, created_at) VALUES ($1, $2) RETURNING id',
      [byteLength, at],
    ),
  );
  return id;
}

export async function writeChunk(
  db: Db,
  audioId: number,
  seq: number,
  data: Buffer,
): Promise<void> {
  await requireSpace(data.length);
  await db.rows('INSERT INTO audio_chunk (audio_id, seq, data) VALUES ($1, $2, $3)', [
    audioId,
    seq,
    data,
  ]);
}

/** Stores finished bytes once under their SHA-256; the same bytes again give the same id. */
export async function putAudio(tx: Tx, bytes: Uint8Array, at: Date): Promise<number> {
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const [known] = await tx.rows<{ id: number }>('SELECT id FROM audio WHERE sha256 = $1', [sha256]);
  if (known) return known.id;
  const id = await createAudio(tx, bytes.length, at);
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let seq = 0; seq * CHUNK_BYTES < bytes.length; seq++) {
    const start = seq * CHUNK_BYTES;
    await writeChunk(tx, id, seq, buffer.subarray(start, start + CHUNK_BYTES));
  }
  return sealAudio(tx, id, sha256);
}

/**
 * Stores bytes whose length is not known beforehand, chunk by chunk as they come.
 * @returns the id of sound that is not sealed yet; nothing is left when the source fails
 */
export async function writeAudio(
  db: Db,
  pieces: AsyncIterable<Uint8Array>,
  at: Date,
): Promise<number> {
  const id = await createAudio(db, 0, at);
  let [seq, total] = [0, 0];
  let waiting: Buffer[] = [];
  let held = 0;
  const store = async (least: number) => {
    let joined = Buffer.concat(waiting);
    while (joined.length > 0 && joined.length >= least) {
      await writeChunk(db, id, seq++, joined.subarray(0, CHUNK_BYTES));
      total += Math.min(joined.length, CHUNK_BYTES);
      joined = joined.subarray(CHUNK_BYTES);
    }
    waiting = [joined];
    held = joined.length;
  };
  try {
    for await (const piece of pieces) {
      waiting.push(Buffer.from(piece.buffer, piece.byteOffset, piece.byteLength));
      held += piece.length;
      if (held >= CHUNK_BYTES) await store(CHUNK_BYTES);
    }
    await store(1);
  } catch (error) {
    await db.rows('DELETE FROM audio WHERE id = $1', [id]);
    throw error;
  }
  await db.rows('UPDATE audio SET byte_length = $2 WHERE id = $1', [id, total]);
  return id;
}

/** Replaces the first bytes of sound that is not sealed yet: headers are known last. */
export async function rewriteStart(db: Db, id: number, bytes: Buffer): Promise<void> {
  await db.rows(
    `UPDATE audio_chunk SET data = $2 || substr(data, $3) WHERE audio_id = $1 AND seq = 0`,
    [id, bytes, bytes.length + 1],
  );
}

/**
 * Marks sound as whole under its SHA-256.
 * @returns the id to use: an older one when the same bytes were there already (the new ones are dropped)
 */
export async function sealAudio(tx: Tx, id: number, sha256: string): Promise<number> {
  // Two jobs may bring the same bytes at once; the second waits here and then finds the first.
  await tx.rows('SELECT pg_advisory_xact_lock(hashtextextended($1, 0))', [sha256]);
  const [known] = await tx.rows<{ id: number }>('SELECT id FROM audio WHERE sha256 = $1', [sha256]);
  if (!known) {
    await tx.rows('UPDATE audio SET sha256 = $2 WHERE id = $1', [id, sha256]);
    return id;
  }
  if (known.id !== id) await tx.rows('DELETE FROM audio WHERE id = $1', [id]);
  return known.id;
}

export async function audioLength(db: Db, id: number): Promise<number | null> {
  const [row] = await db.rows<{ byte_length: number }>(
    'SELECT byte_length FROM audio WHERE id = $1',
    [id],
  );
  return row?.byte_length ?? null;
}

/** Signature, flags, and length of what may follow them. */
const COPY_HEADER_BYTES = 19;
const ROW_HEADER_BYTES = 6;

/** Chunks [from, to] in order, by COPY in binary form, which is several times faster than rows of hex. */
async function* chunks(
  client: pg.ClientBase,
  audioId: number,
  from: number,
  to: number,
): AsyncGenerator<Buffer> {
  // COPY takes no parameters, so nothing but whole numbers may stand in the text.
  const [id, first, last] = [audioId, from, to].map((value) => {
    if (!Number.isSafeInteger(value)) throw new RangeError('whole numbers only');
    return String(value);
  });
  const stream = client.query(
    copyTo(
      `COPY (SELECT data FROM audio_chunk WHERE audio_id = ${id} AND seq BETWEEN ${first} AND ${last} ` +
        'ORDER BY seq) TO STDOUT (FORMAT binary)',
    ),
  );
  // What arrives is joined once, when all of what comes next is there.
  let pieces: Buffer[] = [];
  let [held, needed] = [0, COPY_HEADER_BYTES];
  let atHeader = true;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    pieces.push(piece);
    held += piece.length;
    if (held < needed) continue;
    let pending = pieces.length === 1 ? piece : Buffer.concat(pieces);
    if (atHeader) {
      needed = COPY_HEADER_BYTES + pending.readInt32BE(COPY_HEADER_BYTES - 4);
      if (pending.length >= needed) {
        pending = pending.subarray(needed);
        needed = ROW_HEADER_BYTES;
        atHeader = false;
      }
    }
    // A row: number of fields (1), length, bytes. The last one says -1 fields.
    while (!atHeader && pending.length >= ROW_HEADER_BYTES && pending.readInt16BE(0) === 1) {
      needed = ROW_HEADER_BYTES + pending.readInt32BE(2);
      if (pending.length < needed) break;
      yield pending.subarray(ROW_HEADER_BYTES, needed);
      pending = pending.subarray(needed);
      needed = ROW_HEADER_BYTES;
    }
    pieces = [pending];
    held = pending.length;
  }
}

/** Bytes [from, to) of stored sound, streamed; never more than a few chunks in memory. */
export async function* streamAudio(
  audioId: number,
  from: number,
  to: number,
): AsyncGenerator<Buffer> {
  if (to <= from) return;
  const client = await pool().connect();
  let cancelled: Error | undefined = new Error('cancelled');
  try {
    let at = Math.floor(from / CHUNK_BYTES) * CHUNK_BYTES;
    const last = Math.floor((to - 1) / CHUNK_BYTES);
    for await (const chunk of chunks(client, audioId, at / CHUNK_BYTES, last)) {
      yield chunk.subarray(Math.max(0, from - at), Math.min(chunk.length, to - at));
      at += chunk.length;
    }
    cancelled = undefined;
  } finally {
    // An unfinished COPY cannot be used again: the connection is closed instead of returned.
    client.release(cancelled);
  }
}

/** Stored sound as random access; reading on where the last read ended fetches ahead. */
export async function audioSource(db: Db, audioId: number): Promise<ByteSource> {
  const byteLength = await audioLength(db, audioId);
  if (byteLength === null) throw new Error(`audio ${audioId} is not stored`);
  const kept = new Map<number, Buffer>();
  let next = 0;
  /** @param last the last one that is wanted now */
  const chunk = async (seq: number, last: number): Promise<Buffer> => {
    if (!kept.has(seq)) {
      kept.clear();
      const until = seq > 0 && seq === next ? Math.max(last, seq + READ_AHEAD - 1) : last;
      next = seq;
      const end = Math.min(byteLength, (until + 1) * CHUNK_BYTES);
      for await (const data of streamAudio(audioId, seq * CHUNK_BYTES, end)) kept.set(next++, data);
    }
    return kept.get(seq) ?? Buffer.alloc(0);
  };
  return {
    byteLength,
    read: async (offset, length) => {
      const end = Math.min(byteLength, offset + length);
      const pieces: Buffer[] = [];
      for (let at = offset; at < end;) {
        const seq = Math.floor(at / CHUNK_BYTES);
        const inside = at - seq * CHUNK_BYTES;
        const last = Math.floor((end - 1) / CHUNK_BYTES);
        const piece = (await chunk(seq, last)).subarray(
          inside,
          Math.min(CHUNK_BYTES, inside + end - at),
        );
        if (piece.length === 0) break;
        pieces.push(piece);
        at += piece.length;
      }
      return pieces.length === 1 ? pieces[0]! : Buffer.concat(pieces);
    },
  };
}

/** Forgets bytes that nothing has any more (the view `audio_use` says what does). */
export async function dropUnusedAudio(db: Db, id: number): Promise<void> {
  await db.rows(
    'DELETE FROM audio WHERE id = $1 AND NOT EXISTS (SELECT 1 FROM audio_use WHERE audio_id = $1)',
    [id],
  );
}

/** Forgets bytes that never became whole. */
export async function dropUnfinishedAudio(db: Db, ids: readonly number[]): Promise<void> {
  await db.rows('DELETE FROM audio WHERE id = ANY($1::bigint[]) AND sha256 IS NULL', [ids]);
}

/** Forgets sound that nothing has (any more), from before a day: left by work that was cut off. */
export async function dropOrphans(db: Db, before: Date): Promise<void> {
  await db.rows(
    `DELETE FROM audio WHERE created_at < $1
       AND NOT EXISTS (SELECT 1 FROM audio_use WHERE audio_id = audio.id)`,
    [before],
  );
}
