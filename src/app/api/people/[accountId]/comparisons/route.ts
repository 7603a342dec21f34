import { HOUSE } from '@/platform/endpoints';
import { engineerRoute } from '@/platform/engineer-route';
import { changeShown, shownTo } from '@/platform/sign-in/people';
import { namesOfComparisons } from '@/steps/comparisons/service';

export const GET = engineerRoute(HOUSE.shownTo, async (engineer, { accountId }) => {
  const { limited, comparisonIds } = await shownTo(engineer, accountId);
  return { limited, comparisons: await namesOfComparisons(engineer, comparisonIds) };
});

export const PUT = engineerRoute(HOUSE.changeShown, (engineer, { accountId }, shown) =>
  changeShown(engineer, accountId, shown, new Date()),
);
