import { readBody, respond } from '@/platform/route';
import { passwordChange } from '@/platform/sign-in/schema';
import { changePassword } from '@/platform/sign-in/service';
import { doorOf, requirePerson, startSession } from '@/platform/sign-in/session';

/** Changes one's own password. */
export function PUT(request: Request) {
  return respond(request, async () => {
    const person = await requirePerson();
    const change = await readBody(request, passwordChange);
    await startSession(await changePassword(person, change, await doorOf(request), new Date()));
  });
}
