import { HOUSE } from '@/platform/endpoints';
import { engineerRoute } from '@/platform/engineer-route';
import { setAccess } from '@/platform/sign-in/people';

export const PUT = engineerRoute(HOUSE.setAccess, (engineer, { accountId }, { allowed }) =>
  setAccess(engineer, accountId, allowed, new Date()),
);
