import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { audioLength, streamAudio } from '@/platform/audio-store';
import { db } from '@/platform/database';
import { notFound } from '@/platform/errors';
import { onlyReading, sendFailure, sendWav } from '@/platform/send-bytes';
import { requireEngineerOfCookie, SESSION_COOKIE } from '@/platform/sign-in/cookie';
import { uuid } from '@/steps/comparisons/schema';
import { sealedClip } from '@/steps/results/service';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({
  id: uuid,
  sittingId: uuid,
  sha256: z.string().regex(/^[0-9a-f]{64}$/, 'This address is not complete.'),
});

/** A clip as it was sealed: `sha256sum` of this file stands in the key. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  if (!onlyReading(request, response)) return;
  try {
    const { id, sittingId, sha256 } = query.parse(request.query);
    const engineer = await requireEngineerOfCookie(request.cookies[SESSION_COOKIE]);
    const { audioId } = await sealedClip(engineer, id, sittingId, sha256);
    const length = await audioLength(db(), audioId);
    if (length === null) throw notFound('clip');
    response.setHeader('Content-Disposition', `attachment; filename="${sha256.slice(0, 12)}.wav"`);
    await sendWav(request, response, length, (from, to) => streamAudio(audioId, from, to));
  } catch (error) {
    sendFailure(response, error);
  }
}
