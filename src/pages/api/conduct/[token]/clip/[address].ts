import type { NextApiRequest, NextApiResponse } from 'next';
import { ROOM_DEVICE_COOKIE } from '@/steps/listening/seat-cookie-name';
import { sendAddressed } from '@/steps/listening/send-copy';
import { clipForConductor } from '@/steps/listening/conductor';

export const config = { api: { bodyParser: false, responseLimit: false } };

/** The room's copy of a clip of the present or the coming trial. */
export default function handler(request: NextApiRequest, response: NextApiResponse) {
  return sendAddressed(request, response, ({ token, address }) =>
    clipForConductor(token, request.cookies[ROOM_DEVICE_COOKIE], address),
  );
}
