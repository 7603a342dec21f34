import type { Writable } from 'node:stream';

/**
 * A stream of Node's as the web has them, piece by piece: Node's own adapter lets thousands of pieces wait in memory.
 */
export function into(writable: Writable): WritableStream<Uint8Array> {
  // What breaks is told by the write that it breaks.
  writable.on('error', () => undefined);
  const settled = (work: (done: (error?: Error | null) => void) => void) =>
    new Promise<void>((resolve, reject) => work((error) => (error ? reject(error) : resolve())));
  return new WritableStream({
    write: (piece) => settled((done) => writable.write(piece, done)),
    close: () => settled((done) => writable.end(done)),
    abort: () => void writable.destroy(),
  });
}
