import { once } from 'node:events';
import type { NextApiRequest, NextApiResponse } from 'next';
import type { CopyPlan } from '@/core/matching/copy';
import { UserError } from './errors';
import { sendWav } from './send-bytes';
import { threads } from './threads';

/** Which copy to make, and how. */
export interface CopyOrder extends CopyPlan {
  audioId: number;
}

/** An order with memory to carry it out in, where there is some that is large enough. */
export type CopyTask = CopyOrder & { memory?: SharedArrayBuffer };

/**
 * Memory in which copies were made and sent. Made anew for each, the megabytes of a panel would have the
 * whole process stop and tidy up many times a second, and answers wait for it.
 */
const spare: SharedArrayBuffer[] = [];
const MOST_SPARE_BYTES = 64 << 20;

function keepSpare(memory: ArrayBufferLike): void {
  const held = spare.reduce((sum, { byteLength }) => sum + byteLength, 0);
  if (memory instanceof SharedArrayBuffer && held + memory.byteLength <= MOST_SPARE_BYTES) {
    spare.push(memory);
  }
}

/** Copies that wait to be made for one who asks; more is no listening any more. */
const MOST_WAITING = 24;
/** A copy that was asked for in part serves the other parts for so long. */
const KEPT_MS = 20_000;
const MOST_KEPT_BYTES = 96 << 20;

interface Kept {
  name: string;
  bytes: Uint8Array;
  timer: NodeJS.Timeout;
}

/** Per whoever asks: the making that the next one waits for, and the copy that was asked for in part last. */
const turns = new Map<string, { last: Promise<unknown>; waiting: number }>();
const kept = new Map<string, Kept>();

/** One at a time for each who asks. @throws UserError when too many wait */
async function inTurn<T>(who: string, work: () => Promise<T>): Promise<T> {
  const turn = turns.get(who) ?? { last: Promise.resolve(), waiting: 0 };
  if (turn.waiting >= MOST_WAITING) {
    throw new UserError(429, 'Too many recordings are asked for at once; wait a moment.');
  }
  turns.set(who, turn);
  turn.waiting++;
  const made = turn.last.then(work, work);
  turn.last = made.catch(() => undefined);
  try {
    return await made;
  } finally {
    turn.waiting--;
    if (turn.waiting === 0) turns.delete(who);
  }
}

function forget(who: string): void {
  const one = kept.get(who);
  if (!one) return;
  clearTimeout(one.timer);
  kept.delete(who);
}

function keepForRanges(who: string, name: string, bytes: Uint8Array): void {
  forget(who);
  const held = [...kept.values()].reduce((sum, one) => sum + one.bytes.length, 0);
  if (held + bytes.length > MOST_KEPT_BYTES) return;
  const timer = setTimeout(() => forget(who), KEPT_MS);
  timer.unref();
  kept.set(who, { name, bytes, timer });
}

async function make(order: CopyOrder): Promise<Uint8Array> {
  const task: CopyTask = { ...order, memory: spare.pop() };
  return (await threads().run(task, { name: 'servedCopy' })) as Uint8Array;
}

/**
 * Has a copy made by a thread and sends it; same headers for every clip.
 * @param as who asks, and by which name the copy goes
 * @returns whether all that was asked for went out
 */
export function sendCopy(
  request: NextApiRequest,
  response: NextApiResponse,
  order: CopyOrder,
  as: { who: string; name: string },
): Promise<boolean> {
  return sendMade(request, response, () => make(order), as);
}

/**
 * Sends sound that is made for whoever asks. For each of them one is made at a time, and one that is fetched in ranges
 * is made once.
 * @returns whether all that was asked for went out
 */
export async function sendMade(
  request: NextApiRequest,
  response: NextApiResponse,
  making: () => Promise<Uint8Array>,
  { who, name }: { who: string; name: string },
): Promise<boolean> {
  const inPart = request.headers.range !== undefined;
  const known = kept.get(who);
  const again = inPart && known?.name === name ? known.bytes : null;
  const bytes = again ?? (await inTurn(who, making));
  if (inPart && !again) keepForRanges(who, name, bytes);
  await sendWav(request, response, bytes.length, async function* (from, to) {
    yield bytes.subarray(from, to);
  });
  if (!response.closed && !response.writableFinished) {
    await Promise.race([once(response, 'finish'), once(response, 'close')]);
  }
  // Not what a broken connection may still hold, nor what serves the next range.
  if (response.writableFinished && !inPart) keepSpare(bytes.buffer);
  return response.writableFinished;
}
