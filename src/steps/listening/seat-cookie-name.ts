import { createHash } from 'node:crypto';

/** One cookie per sitting, named after its link without giving the link away. */
export function seatCookieName(token: string): string {
  return `seat-${createHash('sha256').update(token).digest('hex').slice(0, 12)}`;
}
