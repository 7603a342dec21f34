import 'server-only';
import { cookies } from 'next/headers';
import { config } from '@/platform/config';
import { ROOM_DEVICE_COOKIE, SEAT_COOKIES, seatCookieName } from './seat-cookie-name';

const LASTS_S = 60 * 24 * 3600;

export async function readSeat(token: string): Promise<string | undefined> {
  return (await cookies()).get(seatCookieName(token))?.value;
}

/** Secrets of all seats that this browser keeps. */
export async function readSeats(): Promise<string[]> {
  return (await cookies())
    .getAll()
    .filter(({ name }) => name.startsWith(SEAT_COOKIES))
    .map(({ value }) => value);
}

/** Which device runs a room. */
export async function readRoomDevice(): Promise<string | undefined> {
  return (await cookies()).get(ROOM_DEVICE_COOKIE)?.value;
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
