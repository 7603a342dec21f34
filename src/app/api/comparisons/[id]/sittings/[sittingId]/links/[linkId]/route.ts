import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { linkChange } from '@/steps/sitting/schema';
import { changeLink, renewLink } from '@/steps/sitting/service';

export const PUT = engineerRoute(
  ['id', 'sittingId', 'linkId'],
  async (engineer, { id, sittingId, linkId }, request) => {
    const change = await readBody(request, linkChange);
    if ('renew' in change) return renewLink(engineer, id, sittingId, linkId);
    return changeLink(engineer, id, sittingId, linkId, change.withdrawn, new Date());
  },
);
