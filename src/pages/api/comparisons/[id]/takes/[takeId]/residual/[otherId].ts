import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { onlyReading, sendFailure } from '@/platform/send-bytes';
import { sendMade } from '@/platform/send-copy';
import { requireEngineerOfCookie, SESSION_COOKIE } from '@/platform/sign-in/cookie';
import { uuid } from '@/steps/comparisons/schema';
import { insisting } from '@/steps/sitting/schema';
import { listenByName } from '@/steps/sitting/service';
import { compareOrder, residualOfTwo } from '@/steps/takes/compare';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({ id: uuid, takeId: uuid, otherId: uuid, insist: insisting });

/** What is left of one take without another, to hear; both are heard by name in it. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  if (!onlyReading(request, response)) return;
  try {
    const { id, takeId, otherId, insist } = query.parse(request.query);
    const engineer = await requireEngineerOfCookie(request.cookies[SESSION_COOKIE]);
    const order = await compareOrder(engineer, id, takeId, otherId);
    for (const heard of [takeId, otherId]) {
      await listenByName(engineer, id, { takeId: heard }, insist, new Date());
    }
    await sendMade(request, response, () => residualOfTwo(order), {
      who: engineer.accountId,
      name: `${takeId} ${otherId}`,
    });
  } catch (error) {
    sendFailure(response, error);
  }
}
