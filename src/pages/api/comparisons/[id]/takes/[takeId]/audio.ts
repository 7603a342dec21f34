import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { audioLength, streamAudio } from '@/platform/audio-store';
import { db } from '@/platform/database';
import { notFound } from '@/platform/errors';
import { sendFailure, sendWav } from '@/platform/send-bytes';
import { requireEngineerOfCookie, SESSION_COOKIE } from '@/platform/sign-in/cookie';
import { uuid } from '@/steps/comparisons/schema';
import { takeOf } from '@/steps/takes/service';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({ id: uuid, takeId: uuid });

/** A take as it was recorded, streamed. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  try {
    const { id, takeId } = query.parse(request.query);
    const engineer = await requireEngineerOfCookie(request.cookies[SESSION_COOKIE]);
    const { audioId } = await takeOf(engineer, id, takeId);
    const length = await audioLength(db(), audioId);
    if (length === null) throw notFound('take');
    await sendWav(request, response, length, (from, to) => streamAudio(audioId, from, to));
  } catch (error) {
    sendFailure(response, error);
  }
}
