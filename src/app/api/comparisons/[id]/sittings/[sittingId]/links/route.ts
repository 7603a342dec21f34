import { engineerRoute } from '@/platform/engineer-route';
import { queryOf } from '@/platform/list-query';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { linkQuery } from '@/steps/sitting/schema';
import { addLinks, linksOf } from '@/steps/sitting/service';

export const GET = engineerRoute(SITTINGS.links, (engineer, ids, _, request) =>
  linksOf(engineer, ids.id, ids.sittingId, linkQuery.parse(queryOf(request))),
);

export const POST = engineerRoute(SITTINGS.addLinks, async (engineer, ids, { panelistIds }) => ({
  links: await addLinks(engineer, ids.id, ids.sittingId, panelistIds, new Date()),
}));
