import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { sendFailure } from '@/platform/send-bytes';
import { type CopyOrder, sendCopy } from '@/platform/send-copy';
import { clipAddress, linkToken } from './schema';

const query = z.object({ token: linkToken, address: clipAddress });

/** Sends the copy of a clip that an address means to whoever asks. */
export async function sendAddressed(
  request: NextApiRequest,
  response: NextApiResponse,
  find: (asked: z.infer<typeof query>) => Promise<CopyOrder>,
): Promise<void> {
  try {
    await sendCopy(request, response, await find(query.parse(request.query)));
  } catch (error) {
    sendFailure(response, error);
  }
}
