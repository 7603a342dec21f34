import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { audioLength, streamAudio } from '@/platform/audio-store';
import { db } from '@/platform/database';
import { notFound } from '@/platform/errors';
import { onlyReading, sendFailure, sendWav } from '@/platform/send-bytes';
import { requireEngineerOfCookie, SESSION_COOKIE } from '@/platform/sign-in/cookie';
import { uuid } from '@/steps/comparisons/schema';
import { insisting } from '@/steps/sitting/schema';
import { listenByName } from '@/steps/sitting/service';
import { takeOf } from '@/steps/takes/service';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({ id: uuid, takeId: uuid, insist: insisting });

/** A take as it was recorded, streamed. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  if (!onlyReading(request, response)) return;
  try {
    const { id, takeId, insist } = query.parse(request.query);
    const engineer = await requireEngineerOfCookie(request.cookies[SESSION_COOKIE]);
    const { audioId } = await takeOf(engineer, id, takeId);
    await listenByName(engineer, id, { takeId }, insist, new Date());
    const length = await audioLength(db(), audioId);
    if (length === null) throw notFound('take');
    await sendWav(request, response, length, (from, to) => streamAudio(audioId, from, to));
  } catch (error) {
    sendFailure(response, error);
  }
}
