import { askForCopy, keepCopies } from '@/platform/copies/service';
import { HOUSE } from '@/platform/endpoints';
import { engineerRoute } from '@/platform/engineer-route';

export const POST = engineerRoute(HOUSE.askForCopy, async (engineer) => {
  await askForCopy(engineer, new Date());
  return {};
});

export const PUT = engineerRoute(HOUSE.keepCopies, (engineer, _, kept) =>
  keepCopies(engineer, kept, new Date()),
);
