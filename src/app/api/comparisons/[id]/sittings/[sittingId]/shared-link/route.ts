import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { sharedLinkChange } from '@/steps/sitting/schema';
import { changeSharedLink } from '@/steps/sitting/service';

export const PUT = engineerRoute(
  ['id', 'sittingId'],
  async (engineer, { id, sittingId }, request) => {
    const { open } = await readBody(request, sharedLinkChange);
    await changeSharedLink(engineer, id, sittingId, open);
  },
);
