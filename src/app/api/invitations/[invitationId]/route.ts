import { HOUSE } from '@/platform/endpoints';
import { engineerRoute } from '@/platform/engineer-route';
import { withdrawInvitation } from '@/platform/sign-in/people';

export const DELETE = engineerRoute(HOUSE.withdraw, (engineer, { invitationId }) =>
  withdrawInvitation(engineer, invitationId, new Date()),
);
