import { createReadStream } from 'node:fs';
import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { copyFile } from '@/platform/copies/service';
import { recordAlone } from '@/platform/events/service';
import { onlyReading, sendFailure, sendRange } from '@/platform/send-bytes';
import { requireEngineerOfCookie, SESSION_COOKIE } from '@/platform/sign-in/cookie';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({ copyId: z.uuid('This address is not complete.') });

/** A copy of the bank; a download that broke off goes on where it stopped. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  if (!onlyReading(request, response)) return;
  try {
    const { copyId } = query.parse(request.query);
    const owner = await requireEngineerOfCookie(request.cookies[SESSION_COOKIE]);
    const { file, name, bytes } = await copyFile(owner, copyId);
    // A download that goes on is the same one.
    if (request.method === 'GET' && request.headers.range === undefined) {
      await recordAlone(owner, 'copy fetched', { about: name }, new Date());
    }
    response.setHeader('Content-Disposition', `attachment; filename="${name}"`);
    response.setHeader('ETag', `"${copyId}"`);
    const what = { contentType: 'application/zip', length: bytes };
    await sendRange(request, response, what, (from, to) =>
      createReadStream(file, { start: from, end: Math.max(from, to - 1) }),
    );
  } catch (error) {
    sendFailure(response, error);
  }
}
