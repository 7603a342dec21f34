import { randomBytes } from 'node:crypto';
import { type NextRequest, NextResponse } from 'next/server';
import { contentPolicy, NONCE_HEADER } from '@/platform/content-policy';
import { ROOM_DEVICE_COOKIE } from '@/steps/listening/seat-cookie-name';

const COOKIE = {
  httpOnly: true,
  sameSite: 'lax',
  path: '/',
  maxAge: 60 * 24 * 3600,
  secure: process.env.ZEITBANK_HTTPS === '1',
} as const;

/** A new mark for a browser that opens a room's page and has none. */
function conductingDevice(request: NextRequest): string | null {
  const here = request.nextUrl.pathname.startsWith('/conduct/');
  return here && !request.cookies.has(ROOM_DEVICE_COOKIE)
    ? randomBytes(24).toString('base64url')
    : null;
}

/** Gives every page a policy with a number of its own; the framework puts it on its inline scripts. */
export function proxy(request: NextRequest): NextResponse {
  const nonce = randomBytes(16).toString('base64');
  const policy = contentPolicy(nonce);
  const headers = new Headers(request.headers);
  headers.set(NONCE_HEADER, nonce);
  headers.set('Content-Security-Policy', policy);
  const device = conductingDevice(request);
  if (device) headers.append('cookie', `${ROOM_DEVICE_COOKIE}=${device}`);
  const response = NextResponse.next({ request: { headers } });
  if (device) response.cookies.set(ROOM_DEVICE_COOKIE, device, COOKIE);
  response.headers.set('Content-Security-Policy', policy);
  return response;
}

// Routes answer no pages, and are asked many times a second.
export const config = { matcher: ['/((?!api/|_next/).*)'] };
