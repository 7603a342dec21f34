import 'server-only';
import type { NextResponse } from 'next/server';
import { notFound } from '@/platform/errors';
import { respond } from '@/platform/route';
import { linkToken } from './schema';
import { readSeat } from './seat-cookie';

type LinkContext = { params: Promise<{ token: string }> };

/** A route behind a secret link: no sign-in, the link says what may be done. */
export function linkRoute(
  work: (token: string, request: Request) => Promise<unknown>,
): (request: Request, context: LinkContext) => Promise<NextResponse> {
  return (request, { params }) =>
    respond(request, async () => {
      const token = linkToken.safeParse((await params).token);
      if (!token.success) throw notFound('sitting');
      return work(token.data, request);
    });
}

/** A route behind a listeners' link: the seat's cookie says who asks. */
export function listenerRoute(
  work: (token: string, seat: string | undefined, request: Request) => Promise<unknown>,
): (request: Request, context: LinkContext) => Promise<NextResponse> {
  return linkRoute(async (token, request) => work(token, await readSeat(token), request));
}
