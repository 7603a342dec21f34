import 'server-only';
import type { Endpoint } from '@/platform/endpoint';
import { notFound } from '@/platform/errors';
import { languageAsked } from '@/platform/language/asked';
import { type Handler, type Outcome, routeOf } from '@/platform/route';
import { saying } from './refusals';
import { linkToken } from './schema';
import { readSeat } from './seat-cookie';

type Tokened = `${string}[token]${string}`;

function tokenOf(text: string): string {
  const token = linkToken.safeParse(text);
  if (!token.success) throw notFound('sitting');
  return token.data;
}

/** A route behind a secret link: no sign-in, the link says what may be done. */
export function linkRoute<Path extends Tokened, Sent, Taken, Reply>(
  endpoint: Endpoint<Path, Sent, Taken, Reply>,
  work: (token: string, body: Taken, request: Request) => Promise<Outcome<Reply>>,
): Handler<Path> {
  return routeOf(endpoint, tokenOf, async ({ ids, read, request }) => {
    return saying(await languageAsked(), async () => {
      const { token } = (await ids()) as { token: string };
      return work(token, await read(), request);
    });
  });
}

/** A route behind a listeners' link: the seat's cookie says who asks. */
export function listenerRoute<Path extends Tokened, Sent, Taken, Reply>(
  endpoint: Endpoint<Path, Sent, Taken, Reply>,
  work: (
    token: string,
    seat: string | undefined,
    body: Taken,
    request: Request,
  ) => Promise<Outcome<Reply>>,
): Handler<Path> {
  return linkRoute(endpoint, async (token, body, request) =>
    work(token, await readSeat(token), body, request),
  );
}
