import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { linkOrder } from '@/steps/sitting/schema';
import { addLinks } from '@/steps/sitting/service';

export const POST = engineerRoute(
  ['id', 'sittingId'],
  async (engineer, { id, sittingId }, request) => {
    const { panelistIds } = await readBody(request, linkOrder);
    return { links: await addLinks(engineer, id, sittingId, panelistIds, new Date()) };
  },
);
