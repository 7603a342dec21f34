import { randomBytes } from 'node:crypto';
import { type NextRequest, NextResponse } from 'next/server';
import { contentPolicy, NONCE_HEADER } from '@/platform/content-policy';

/** Gives every page a policy with a number of its own; the framework puts it on its inline scripts. */
export function proxy(request: NextRequest): NextResponse {
  const nonce = randomBytes(16).toString('base64');
  const policy = contentPolicy(nonce);
  const headers = new Headers(request.headers);
  headers.set(NONCE_HEADER, nonce);
  headers.set('Content-Security-Policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('Content-Security-Policy', policy);
  return response;
}

// Routes answer no pages, and are asked many times a second.
export const config = { matcher: ['/((?!api/|_next/).*)'] };
