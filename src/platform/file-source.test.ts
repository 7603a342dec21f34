import { mkdtempSync, rmSync } from 'node:fs';
import { open } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { Writable } from 'node:stream';
import { ZipReader, ZipWriter } from '@zip.js/zip.js';
import { withFileSource } from './file-source';
import { StoredZip } from './stored-zip';
import { into } from './stream-into';

const folder = mkdtempSync(path.join(os.tmpdir(), 'zeitbank-long-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Longer than 32 bits can count; nearly all of it is a hole, which takes no room. */
const HOLE = 2 ** 32 + 12_345;

it('reads a zip in a file of more than 4 GiB, where its directory lies behind them', async () => {
  const pieces: Buffer[] = [];
  const out = new Writable({ write: (piece: Buffer, _, done) => (pieces.push(piece), done()) });
  const zip = new ZipWriter(into(out), { zip64: true, offset: HOLE });
  await zip.add('told.txt', { readable: new Blob(['the end is read']).stream() });
  await zip.close();
  const file = path.join(folder, 'long.zip');
  const handle = await open(file, 'w');
  await handle.write(Buffer.concat(pieces), 0, undefined, HOLE);
  await handle.close();
  await withFileSource(file, async (source) => {
    expect(source.byteLength).toBe(HOLE + Buffer.concat(pieces).length);
    const [entry] = await new ZipReader(new StoredZip(source)).getEntries();
    expect(entry).toMatchObject({ filename: 'told.txt', directory: false });
    const told: Uint8Array[] = [];
    if (entry?.directory === false) {
      await entry.getData(
        new WritableStream<Uint8Array>({ write: (piece) => void told.push(piece) }),
      );
    }
    expect(Buffer.concat(told).toString()).toBe('the end is read');
  });
});

it('says as the system does what cannot be opened', async () => {
  const nothing = () => Promise.resolve(null);
  await expect(withFileSource(path.join(folder, 'none'), nothing)).rejects.toMatchObject({
    code: 'ENOENT',
  });
  await expect(withFileSource(folder, nothing)).rejects.toMatchObject({ code: 'EISDIR' });
});
