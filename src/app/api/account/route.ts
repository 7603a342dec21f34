import { HOUSE } from '@/platform/endpoints';
import { personRoute } from '@/platform/engineer-route';
import { changePassword } from '@/platform/sign-in/service';
import { doorOf, startSession } from '@/platform/sign-in/session';

/** Changes one's own password. */
export const PUT = personRoute(HOUSE.changePassword, async (person, _, change, request) =>
  startSession(await changePassword(person, change, await doorOf(request), new Date())),
);
