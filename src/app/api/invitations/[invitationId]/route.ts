import { engineerRoute } from '@/platform/engineer-route';
import { withdrawInvitation } from '@/platform/sign-in/people';

export const DELETE = engineerRoute(['invitationId'], (engineer, { invitationId }) =>
  withdrawInvitation(engineer, invitationId),
);
