import type { NextApiRequest, NextApiResponse } from 'next';
import { parse } from 'range-parser';
import { failureOf } from './failure';

/** What the parser says of a header that it cannot use. */
const [MALFORMED, UNSATISFIABLE] = [1, 2];

export interface ByteRange {
  from: number;
  to: number;
  partial: boolean;
}

/**
 * Reads a Range header. What is no range of bytes, or several, is answered with the whole (RFC 9110, 14.2).
 * @returns null when it asks for what is not there
 */
export function rangeOf(header: string | undefined, length: number): ByteRange | null {
  const whole = { from: 0, to: length, partial: false };
  if (header === undefined) return whole;
  const { code, type, ranges } = parse(length, header);
  if (type !== 'bytes' || code === MALFORMED || ranges.length > 1) return whole;
  const range = ranges[0]!;
  return code === UNSATISFIABLE ? null : { from: range.start, to: range.end + 1, partial: true };
}

/** Refuses whatever neither reads bytes nor asks how many they are. @returns whether it may go on */
export function onlyReading(request: NextApiRequest, response: NextApiResponse): boolean {
  if (request.method === 'GET' || request.method === 'HEAD') return true;
  response.setHeader('Allow', 'GET, HEAD');
  response.status(405).json({ error: 'This is only fetched, not sent to.' });
  return false;
}

type ReadRange = (from: number, to: number) => AsyncIterable<Uint8Array>;

/** Sends WAV bytes, whole or a range, with nothing in the headers but what every clip has. */
export async function sendWav(
  request: NextApiRequest,
  response: NextApiResponse,
  length: number,
  read: ReadRange,
): Promise<void> {
  return sendRange(request, response, { contentType: 'audio/wav', length }, read);
}

/** Sends bytes, whole or a range of them. */
export async function sendRange(
  request: NextApiRequest,
  response: NextApiResponse,
  { contentType, length }: { contentType: string; length: number },
  read: ReadRange,
): Promise<void> {
  const range = rangeOf(request.headers.range, length);
  response.setHeader('Content-Type', contentType);
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
  for await (const piece of read(from, to)) {
    if (response.destroyed) return;
    if (!response.write(piece)) {
      await new Promise<void>((resolve) => {
        const go = () => {
          response.off('drain', go).off('close', go);
          resolve();
        };
        response.once('drain', go).once('close', go);
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
