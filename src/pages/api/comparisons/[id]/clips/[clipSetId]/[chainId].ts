import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { sendFailure } from '@/platform/send-bytes';
import { sendCopy } from '@/platform/send-copy';
import { requireEngineerOfCookie, SESSION_COOKIE } from '@/platform/sign-in/cookie';
import { uuid } from '@/steps/comparisons/schema';
import { clipForEngineer } from '@/steps/match/service';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({ id: uuid, clipSetId: uuid, chainId: uuid });

/** A matched clip for the engineer, by name. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  try {
    const { id, clipSetId, chainId } = query.parse(request.query);
    const engineer = await requireEngineerOfCookie(request.cookies[SESSION_COOKIE]);
    const { audioId } = await clipForEngineer(engineer, id, clipSetId, chainId);
    await sendCopy(request, response, { audioId, seeds: null, levelLufs: null, gainDb: 0 });
  } catch (error) {
    sendFailure(response, error);
  }
}
