import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { onlyReading, sendFailure } from '@/platform/send-bytes';
import { sendCopy } from '@/platform/send-copy';
import { clipAddress, linkToken } from './schema';
import type { Served } from './service';

const query = z.object({ token: linkToken, address: clipAddress });

/** Sends the copy of a clip that an address means to whoever asks, and notes that it went out. */
export async function sendAddressed(
  request: NextApiRequest,
  response: NextApiResponse,
  find: (asked: z.infer<typeof query>) => Promise<Served>,
): Promise<void> {
  if (!onlyReading(request, response)) return;
  try {
    const asked = query.parse(request.query);
    const { order, who, sent } = await find(asked);
    const whole = await sendCopy(request, response, order, { who, name: asked.address });
    if (whole && request.method === 'GET') await sent(new Date());
  } catch (error) {
    sendFailure(response, error);
  }
}
