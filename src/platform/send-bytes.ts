import type { NextApiRequest, NextApiResponse } from 'next';
import { failureOf } from './failure';

export interface ByteRange {
  from: number;
  to: number;
  partial: boolean;
}

/** Reads a Range header of one range; null when it asks for what is not there. */
export function rangeOf(header: string | undefined, length: number): ByteRange | null {
  const asked = /^bytes=(\d*)-(\d*)$/.exec(header ?? '');
  if (!asked || (asked[1] === '' && asked[2] === ''))
    return { from: 0, to: length, partial: false };
  const [, first, last] = asked;
  const from = first === '' ? Math.max(0, length - Number(last)) : Number(first);
  const to = first === '' || last === '' ? length : Math.min(length, Number(last) + 1);
  return from < to ? { from, to, partial: true } : null;
}

/** Refuses whatever neither reads sound nor asks how long it is. @returns whether it may go on */
export function onlyReading(request: NextApiRequest, response: NextApiResponse): boolean {
  if (request.method === 'GET' || request.method === 'HEAD') return true;
  response.setHeader('Allow', 'GET, HEAD');
  response.status(405).json({ error: 'Sound is only fetched here.' });
  return false;
}

/** Sends WAV bytes, whole or a range, with nothing in the headers but what every clip has. */
export async function sendWav(
  request: NextApiRequest,
  response: NextApiResponse,
  length: number,
  read: (from: number, to: number) => AsyncIterable<Uint8Array>,
): Promise<void> {
  const range = rangeOf(request.headers.range, length);
  response.setHeader('Content-Type', 'audio/wav');
  response.setHeader('Cache-Control', 'no-store');
  response.setHeader('Accept-Ranges', 'bytes');
  if (!range) {
    response.setHeader('Content-Range', `bytes */${length}`);
    response.status(416).end();
    return;
  }
  const { from, to, partial } = range;
  if (partial) response.setHeader('Content-Range', `bytes ${from}-${to - 1}/${length}`);
  response.setHeader('Content-Length', to - from);
  response.status(partial ? 206 : 200);
  if (request.method === 'HEAD') {
    response.end();
    return;
  }
  for await (const part of read(from, to)) {
    if (response.destroyed) return;
    if (!response.write(part)) {
      await new Promise<void>((resolve) => {
        response.once('drain', resolve);
        response.once('close', resolve);
      });
    }
  }
  response.end();
}

export function sendFailure(response: NextApiResponse, error: unknown): void {
  if (response.headersSent) {
    response.destroy();
    return;
  }
  const { status, message } = failureOf(error);
  response.setHeader('Cache-Control', 'no-store');
  response.status(status).json({ error: message });
}
