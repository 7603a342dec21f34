import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { onlyReading, sendFailure } from '@/platform/send-bytes';
import { sendCopy } from '@/platform/send-copy';
import { requireEngineerOfCookie, SESSION_COOKIE } from '@/platform/sign-in/cookie';
import { uuid } from '@/steps/comparisons/schema';
import { clipForEngineer } from '@/steps/match/service';
import { insisting } from '@/steps/sitting/schema';
import { listenByName } from '@/steps/sitting/service';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({ id: uuid, clipSetId: uuid, chainId: uuid, insist: insisting });

/** A matched clip for the engineer, by name. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  if (!onlyReading(request, response)) return;
  try {
    const { id, clipSetId, chainId, insist } = query.parse(request.query);
    const engineer = await requireEngineerOfCookie(request.cookies[SESSION_COOKIE]);
    const { audioId } = await clipForEngineer(engineer, id, clipSetId, chainId);
    await listenByName(engineer, id, { clipSetId }, insist, new Date());
    const order = { audioId, seeds: null, levelLufs: null, gainDb: 0 };
    await sendCopy(request, response, order, {
      who: engineer.accountId,
      name: `${clipSetId} ${chainId}`,
    });
  } catch (error) {
    sendFailure(response, error);
  }
}
