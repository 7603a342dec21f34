import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { recordAlone } from '@/platform/events/service';
import { onlyReading, sendFailure } from '@/platform/send-bytes';
import { requireEngineerOfCookie, SESSION_COOKIE } from '@/platform/sign-in/cookie';
import { archiveOf } from '@/steps/archive/service';
import { writeArchive } from '@/steps/archive/write';
import { uuid } from '@/steps/comparisons/schema';

export const config = { api: { bodyParser: false, responseLimit: false } };

const query = z.object({ id: uuid });

/** One comparison as a folder that can be read without this program. */
export default async function handler(request: NextApiRequest, response: NextApiResponse) {
  if (!onlyReading(request, response)) return;
  try {
    const { id } = query.parse(request.query);
    const engineer = await requireEngineerOfCookie(request.cookies[SESSION_COOKIE]);
    const archive = await archiveOf(engineer, id, new Date());
    response.setHeader('Content-Type', 'application/zip');
    const name = encodeURIComponent(archive.fileName);
    response.setHeader('Content-Disposition', `attachment; filename*=UTF-8''${name}`);
    response.setHeader('Cache-Control', 'no-store');
    response.status(200);
    if (request.method === 'HEAD') {
      response.end();
      return;
    }
    const told = { about: 'the whole comparison', comparisonId: id };
    await recordAlone(engineer, 'exported', told, new Date());
    await writeArchive(archive, response);
  } catch (error) {
    sendFailure(response, error);
  }
}
