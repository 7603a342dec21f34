import type { NextApiRequest, NextApiResponse } from 'next';
import { seatCookieName } from '@/steps/listening/seat-cookie-name';
import { sendAddressed } from '@/steps/listening/send-copy';
import { clipFor } from '@/steps/listening/service';

export const config = { api: { bodyParser: false, responseLimit: false } };

/** A listener's own copy of a clip of the present or the coming trial. */
export default function handler(request: NextApiRequest, response: NextApiResponse) {
  return sendAddressed(request, response, ({ token, address }) =>
    clipFor(token, request.cookies[seatCookieName(token)], address),
  );
}
