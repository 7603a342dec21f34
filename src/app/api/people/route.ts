import { HOUSE } from '@/platform/endpoints';
import { engineerRoute } from '@/platform/engineer-route';
import { typedText } from '@/platform/list-query';
import { invite } from '@/platform/sign-in/people';
import { comparisonsFound } from '@/steps/comparisons/service';

/** Comparisons that somebody can be shown. */
export const GET = engineerRoute(HOUSE.comparisonsFound, async (engineer, _, __, request) => ({
  found: await comparisonsFound(engineer, typedText(request)),
}));

export const POST = engineerRoute(HOUSE.invite, (engineer, _, whom) =>
  invite(engineer, whom, new Date()),
);
