import { HOUSE } from '@/platform/endpoints';
import { engineerRoute } from '@/platform/engineer-route';
import { invite } from '@/platform/sign-in/people';

export const POST = engineerRoute(HOUSE.invite, (engineer, _, whom) =>
  invite(engineer, whom, new Date()),
);
