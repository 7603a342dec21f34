import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { sendFailure, sendWav, slices } from '@/platform/send-bytes';
import { threads } from '@/platform/threads';
import { clipAddress, linkToken } from './schema';
import type { CopyOrder } from './service';

const query = z.object({ token: linkToken, address: clipAddress });

/** Sends the copy of a clip that an address means to whoever asks; same headers for every clip. */
export async function sendCopy(
  request: NextApiRequest,
  response: NextApiResponse,
  find: (asked: z.infer<typeof query>) => Promise<CopyOrder>,
): Promise<void> {
  try {
    const source = await find(query.parse(request.query));
    const bytes = (await threads().run(source, { name: 'servedCopy' })) as Uint8Array;
    await sendWav(request, response, bytes.length, (from, to) => slices(bytes, from, to));
  } catch (error) {
    sendFailure(response, error);
  }
}
