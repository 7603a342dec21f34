import type { Writable } from 'node:stream';

/**
 * A stream of Node's as the web has them, part by part: Node's own adapter lets thousands of parts wait in memory.
 */
export function into(writable: Writable): WritableStream<Uint8Array> {
  // What breaks is told by the write that it breaks.
  writable.on('error', () => undefined);
  const settled = (work: (done: (error?: Error | null) => void) => void) =>
    new Promise<void>((resolve, reject) => work((error) => (error ? reject(error) : resolve())));
  return new WritableStream({
    write: (part) => settled((done) => writable.write(part, done)),
    close: () => settled((done) => writable.end(done)),
    abort: () => void writable.destroy(),
  });
}
