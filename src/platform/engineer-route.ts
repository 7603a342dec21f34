import 'server-only';
import { z } from 'zod';
import type { Endpoint, Ids } from './endpoint';
import { type Handler, type Outcome, routeOf } from './route';
import type { SignedIn } from './sign-in/service';
import { requireEngineer, requirePerson, requireRight } from './sign-in/session';

const id = z.uuid('This address is not complete.');

/** A route that asks who is there before it reads anything. */
const routeFor =
  <Who>(who: () => Promise<Who>) =>
  <Path extends string, Sent, Taken, Reply>(
    endpoint: Endpoint<Path, Sent, Taken, Reply>,
    work: (who: Who, ids: Ids<Path>, body: Taken, request: Request) => Promise<Outcome<Reply>>,
  ): Handler<Path> =>
    routeOf(
      endpoint,
      (text) => id.parse(text),
      async ({ ids, read, request }) => work(await who(), await ids(), await read(), request),
    );

/** A route of a signed-in engineer. */
export const engineerRoute = routeFor<SignedIn>(requireEngineer);

/** A route of everybody with an account, conductors included. */
export const personRoute = routeFor<SignedIn>(requirePerson);

/** A route of whoever runs rooms: conductors, and everybody who could be one. */
export const conductorRoute = routeFor<SignedIn>(() => requireRight('conduct'));

/** A route for whoever comes: only what is sent counts. */
export const openRoute = routeFor<null>(() => Promise.resolve(null));
