import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { addLinks } from '@/steps/sitting/service';

export const POST = engineerRoute(SITTINGS.addLinks, async (engineer, ids, { panelistIds }) => ({
  links: await addLinks(engineer, ids.id, ids.sittingId, panelistIds, new Date()),
}));
