import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { linkChange } from '@/steps/sitting/schema';
import { changeLink } from '@/steps/sitting/service';

export const PUT = engineerRoute(
  ['id', 'sittingId', 'linkId'],
  async (engineer, { id, sittingId, linkId }, request) => {
    const { withdrawn } = await readBody(request, linkChange);
    await changeLink(engineer, id, sittingId, linkId, withdrawn, new Date());
  },
);
