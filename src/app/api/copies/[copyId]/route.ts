import { askForRestore } from '@/platform/copies/service';
import { HOUSE } from '@/platform/endpoints';
import { engineerRoute } from '@/platform/engineer-route';
import { doorOf } from '@/platform/sign-in/session';

export const POST = engineerRoute(
  HOUSE.restoreCopy,
  async (engineer, { copyId }, { current }, request) =>
    askForRestore(engineer, copyId, current, await doorOf(request), new Date()),
);
