import 'server-only';
import { NextResponse } from 'next/server';
import type { z } from 'zod';
import { UserError } from './errors';
import { failureOf } from './failure';

const MOST_BODY_BYTES = 256 * 1024;
export function failureResponse(error: unknown): NextResponse {
  const { status, message } = failureOf(error);
  return NextResponse.json(
    { error: message },
    { status, headers: { 'cache-control': 'no-store' } },
  );
}

/** Refuses requests that another site's page sends in a visitor's name. */
export function requireSameOrigin(request: Request): void {
  const origin = request.headers.get('origin');
  const host = request.headers.get('x-forwarded-host') ?? request.headers.get('host');
  const site = request.headers.get('sec-fetch-site');
  const foreign = origin !== null && (!URL.canParse(origin) || new URL(origin).host !== host);
  if (foreign || (site !== null && site !== 'same-origin' && site !== 'none')) {
    throw new UserError(403, 'This request came from another page and was refused.');
  }
}

/** Reads a JSON body once, checked against its shape. */
export async function readBody<T>(
  request: Request,
  shape: z.ZodType<T>,
  mostBytes = MOST_BODY_BYTES,
): Promise<T> {
  if (Number(request.headers.get('content-length') ?? 0) > mostBytes) {
    throw new UserError(413, 'This is too much text; shorten it and send it again.');
  }
  const body: unknown = await request.json().catch(() => {
    throw new UserError(400, 'The request cannot be read.');
  });
  return shape.parse(body);
}

/** Wraps the work of a route: same-origin for changes, one sentence for every failure. */
export async function respond<T>(request: Request, work: () => Promise<T>): Promise<NextResponse> {
  try {
    if (request.method !== 'GET') requireSameOrigin(request);
    const result = await work();
    return NextResponse.json(result ?? {}, { headers: { 'cache-control': 'no-store' } });
  } catch (error) {
    return failureResponse(error);
  }
}
