import 'server-only';
import { cookies } from 'next/headers';
import { config } from '@/platform/config';
import { seatCookieName } from './seat-cookie-name';

const LASTS_S = 60 * 24 * 3600;

export async function readSeat(token: string): Promise<string | undefined> {
  return (await cookies()).get(seatCookieName(token))?.value;
}

export async function writeSeat(token: string, listenerToken: string): Promise<void> {
  (await cookies()).set(seatCookieName(token), listenerToken, {
    httpOnly: true,
    sameSite: 'lax',
    secure: config().ZEITBANK_HTTPS === '1',
    path: '/',
    maxAge: LASTS_S,
  });
}
