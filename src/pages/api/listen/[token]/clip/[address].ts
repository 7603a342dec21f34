import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { sendFailure, sendWav, slices } from '@/platform/send-bytes';
import { threads } from '@/platform/threads';
import { clipAddress, linkToken } from '@/steps/listening/schema';
import { seatCookieName } from '@/steps/listening/seat-cookie-name';
import { clipFor } from '@/steps/listening/service';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({ token: linkToken, address: clipAddress });

/** A listener's own copy of a clip of the present or the coming trial. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  try {
    const { token, address } = query.parse(request.query);
    const source = await clipFor(token, request.cookies[seatCookieName(token)], address);
    const bytes = (await threads().run(source, { name: 'servedCopy' })) as Uint8Array;
    await sendWav(request, response, bytes.length, (from, to) => slices(bytes, from, to));
  } catch (error) {
    sendFailure(response, error);
  }
}
