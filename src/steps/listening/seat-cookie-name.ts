import { createHash } from 'node:crypto';

export const SEAT_COOKIES = 'seat-';
/** Set with the page of a room; tells the device that plays from others with the same link. */
export const ROOM_DEVICE_COOKIE = 'room-device';

/** One cookie per sitting, named after its link without giving the link away. */
export function seatCookieName(token: string): string {
  return `${SEAT_COOKIES}${createHash('sha256').update(token).digest('hex').slice(0, 12)}`;
}
