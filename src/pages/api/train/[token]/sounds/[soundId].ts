import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { LANGUAGE_COOKIE } from '@/platform/language/languages';
import { languageOf } from '@/platform/language/negotiate';
import { onlyReading, sendFailure } from '@/platform/send-bytes';
import { sendCopy } from '@/platform/send-copy';
import { uuid } from '@/steps/comparisons/schema';
import { givenSound } from '@/steps/ears/service';
import { inLanguage } from '@/steps/listening/refusals';
import { linkToken } from '@/steps/listening/schema';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({
  token: linkToken,
  soundId: uuid,
  /** Present for the other of two chains. */
  other: z.literal('1').optional(),
});

/** A clip that the panel was given to train on, while no sitting over it is open. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  if (!onlyReading(request, response)) return;
  const language = languageOf(
    request.cookies[LANGUAGE_COOKIE],
    request.headers['accept-language'] ?? null,
  );
  try {
    const { token, soundId, other } = query.parse(request.query);
    const { audioId } = await givenSound(token, soundId, other !== undefined);
    const order = { audioId, seeds: null, levelLufs: null, gainDb: 0 };
    await sendCopy(request, response, order, {
      who: token,
      name: other ? `${soundId} other` : soundId,
    });
  } catch (error) {
    sendFailure(response, inLanguage(error, language));
  }
}
