import 'server-only';
import type { NextResponse } from 'next/server';
import { notFound } from '@/platform/errors';
import { respond } from '@/platform/route';
import { linkToken } from './schema';
import { readSeat } from './seat-cookie';

/** A route behind a listeners' link: no sign-in, the seat's cookie says who asks. */
export function listenerRoute(
  work: (token: string, seat: string | undefined, request: Request) => Promise<unknown>,
): (request: Request, context: { params: Promise<{ token: string }> }) => Promise<NextResponse> {
  return (request, { params }) =>
    respond(request, async () => {
      const token = linkToken.safeParse((await params).token);
      if (!token.success) throw notFound('sitting');
      return work(token.data, await readSeat(token.data), request);
    });
}
