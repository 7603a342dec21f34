import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { onlyReading, sendFailure } from '@/platform/send-bytes';
import { sendCopy } from '@/platform/send-copy';
import { uuid } from '@/steps/comparisons/schema';
import { givenSound } from '@/steps/ears/service';
import { linkToken } from '@/steps/listening/schema';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({ token: linkToken, soundId: uuid });

/** A clip that the panel was given to train on, while no sitting over it is open. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  if (!onlyReading(request, response)) return;
  try {
    const { token, soundId } = query.parse(request.query);
    const { audioId } = await givenSound(token, soundId);
    const order = { audioId, seeds: null, levelLufs: null, gainDb: 0 };
    await sendCopy(request, response, order, { who: token, name: soundId });
  } catch (error) {
    sendFailure(response, error);
  }
}
