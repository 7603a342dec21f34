import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { sendFailure, sendWav, slices } from '@/platform/send-bytes';
import { requireEngineerOfCookie, SESSION_COOKIE } from '@/platform/sign-in/cookie';
import { threads } from '@/platform/threads';
import { uuid } from '@/steps/comparisons/schema';
import { clipForEngineer } from '@/steps/match/service';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({ id: uuid, clipSetId: uuid, chainId: uuid });
const SEED = 1;

/** A matched clip for the engineer, by name. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  try {
    const { id, clipSetId, chainId } = query.parse(request.query);
    const engineer = await requireEngineerOfCookie(request.cookies[SESSION_COOKIE]);
    const { audioId } = await clipForEngineer(engineer, id, clipSetId, chainId);
    const task = { audioId, seed: SEED, levelLufs: null };
    const bytes = (await threads().run(task, { name: 'servedCopy' })) as Uint8Array;
    await sendWav(request, response, bytes.length, (from, to) => slices(bytes, from, to));
  } catch (error) {
    sendFailure(response, error);
  }
}
