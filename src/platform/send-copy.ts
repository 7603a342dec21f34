import { once } from 'node:events';
import type { NextApiRequest, NextApiResponse } from 'next';
import type { CopyPlan } from '@/core/matching/copy';
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

/** Has a copy made by a thread and sends it; same headers for every clip. */
export async function sendCopy(
  request: NextApiRequest,
  response: NextApiResponse,
  order: CopyOrder,
): Promise<void> {
  const task: CopyTask = { ...order, memory: spare.pop() };
  const bytes = (await threads().run(task, { name: 'servedCopy' })) as Uint8Array;
  await sendWav(request, response, bytes.length, async function* (from, to) {
    yield bytes.subarray(from, to);
  });
  if (!response.closed && !response.writableFinished) {
    await Promise.race([once(response, 'finish'), once(response, 'close')]);
  }
  // Not what a broken connection may still hold.
  if (response.writableFinished) keepSpare(bytes.buffer);
}
