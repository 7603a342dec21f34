import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { onlyReading, sendFailure } from '@/platform/send-bytes';
import { sendMade } from '@/platform/send-copy';
import { requireEngineerOfCookie, SESSION_COOKIE } from '@/platform/sign-in/cookie';
import { uuid } from '@/steps/comparisons/schema';
import { clipsOrder } from '@/steps/match/compare-clips';
import { insisting } from '@/steps/sitting/schema';
import { listenByName } from '@/steps/sitting/service';
import { residualOfTwo } from '@/steps/takes/compare';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({
  id: uuid,
  clipSetId: uuid,
  chainId: uuid,
  otherId: uuid,
  insist: insisting,
});

/** What is left of one clip without another of its set, to hear; both are heard by name in it. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  if (!onlyReading(request, response)) return;
  try {
    const { id, clipSetId, chainId, otherId, insist } = query.parse(request.query);
    const engineer = await requireEngineerOfCookie(request.cookies[SESSION_COOKIE]);
    const order = await clipsOrder(engineer, id, clipSetId, { chainId, otherId });
    await listenByName(engineer, id, { clipSetId }, insist, new Date());
    await sendMade(request, response, () => residualOfTwo(order), {
      who: engineer.accountId,
      name: `${clipSetId} ${chainId} ${otherId}`,
    });
  } catch (error) {
    sendFailure(response, error);
  }
}
