import 'server-only';
import type { NextResponse } from 'next/server';
import { z } from 'zod';
import { respond } from './route';
import type { SignedIn } from './sign-in/service';
import { requireEngineer } from './sign-in/session';

type Context<P extends string> = { params: Promise<Record<P, string>> };

/**
 * A route of a signed-in engineer whose address holds these ids. Strangers are refused, ids checked,
 * failures told in a sentence.
 */
export function engineerRoute<P extends string>(
  names: readonly P[],
  work: (engineer: SignedIn, ids: Record<P, string>, request: Request) => Promise<unknown>,
): (request: Request, context: Context<P>) => Promise<NextResponse> {
  return (request, { params }) =>
    respond(request, async () => {
      const engineer = await requireEngineer();
      const given = await params;
      const ids = {} as Record<P, string>;
      for (const name of names)
        ids[name] = z.uuid('This address is not complete.').parse(given[name]);
      return work(engineer, ids, request);
    });
}
