import { createHash, randomBytes } from 'node:crypto';
import {
  audioSource,
  CHUNK_BYTES,
  createAudio,
  putAudio,
  sealAudio,
  streamAudio,
  writeChunk,
} from './audio-store';
import { db, transaction } from './database';
import { NOON, withTestDatabase } from './test/database';
import { one } from './one';

withTestDatabase();

const bytes = randomBytes(3 * CHUNK_BYTES + 12345);

async function collected(id: number, from: number, to: number): Promise<Buffer> {
  const pieces: Buffer[] = [];
  for await (const piece of streamAudio(id, from, to)) pieces.push(Buffer.from(piece));
  return Buffer.concat(pieces);
}

it('gives back exactly the bytes that were put, whole and in ranges', async () => {
  const id = await transaction((tx) => putAudio(tx, bytes, NOON));
  expect((await collected(id, 0, bytes.length)).equals(bytes)).toBe(true);
  for (const [from, to] of [
    [0, 1],
    [CHUNK_BYTES - 1, CHUNK_BYTES + 1],
    [5, 2 * CHUNK_BYTES],
    [bytes.length - 3, bytes.length],
    [7, 7],
  ]) {
    expect((await collected(id, from!, to!)).equals(bytes.subarray(from, to))).toBe(true);
  }
});

it('reads at random like a file, and short at the end', async () => {
  const id = await transaction((tx) => putAudio(tx, bytes, NOON));
  const source = await audioSource(db(), id);
  for (const [offset, length] of [
    [44, 1000],
    [CHUNK_BYTES - 10, 20],
    [10, 2 * CHUNK_BYTES],
    [bytes.length - 5, 100],
    [bytes.length + 5, 10],
  ]) {
    const got = Buffer.from(await source.read(offset!, length!));
    expect(got.equals(bytes.subarray(offset, offset! + length!))).toBe(true);
  }
});

it.each([1000, 65_536, CHUNK_BYTES - 1, CHUNK_BYTES, 2 * CHUNK_BYTES + 1])(
  'reads on in steps of %i bytes, whatever was read between',
  async (step) => {
    const id = await transaction((tx) => putAudio(tx, bytes, NOON));
    const source = await audioSource(db(), id);
    for (let at = 0; at < bytes.length; at += step * (step < CHUNK_BYTES ? 37 : 1)) {
      const got = Buffer.from(await source.read(at, step));
      expect(got.equals(bytes.subarray(at, at + step))).toBe(true);
      const head = Buffer.from(await source.read(0, 12));
      if (at % 3 === 0) expect(head.equals(bytes.subarray(0, 12))).toBe(true);
    }
  },
);

it('keeps what was read when more is read', async () => {
  const id = await transaction((tx) => putAudio(tx, bytes, NOON));
  const source = await audioSource(db(), id);
  const pieces: Uint8Array[] = [];
  for (let at = 0; at < bytes.length; at += CHUNK_BYTES) {
    pieces.push(await source.read(at, CHUNK_BYTES));
  }
  expect(Buffer.concat(pieces).equals(bytes)).toBe(true);
});

it('stores the same content once', async () => {
  const small = Buffer.from('the same recording');
  const first = await transaction((tx) => putAudio(tx, small, NOON));
  expect(await transaction((tx) => putAudio(tx, small, NOON))).toBe(first);
  const second = await transaction(async (tx) => {
    const id = await createAudio(tx, small.length, NOON);
    await writeChunk(tx, id, 0, small);
    return sealAudio(tx, id, createHash('sha256').update(small).digest('hex'));
  });
  expect(second).toBe(first);
  const { count } = await one(
    db().rows<{ count: number }>(
      'SELECT count(*)::int AS count FROM audio WHERE byte_length = $1',
      [small.length],
    ),
  );
  expect(count).toBe(1);
});

it('can be broken off and used again', async () => {
  const id = await transaction((tx) => putAudio(tx, bytes, NOON));
  for (let i = 0; i < 15; i++) {
    for await (const piece of streamAudio(id, 0, bytes.length)) {
      expect(piece.length).toBeGreaterThan(0);
      break;
    }
  }
  expect((await collected(id, 0, 10)).equals(bytes.subarray(0, 10))).toBe(true);
});
