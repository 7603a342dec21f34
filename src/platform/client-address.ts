import { isIPv6 } from 'node:net';

/** Set by our own server for every request, in place of whatever the client sent under this name. */
export const ADDRESS_HEADER = 'x-forwarded-for';

/**
 * The address that asks, behind as many proxies of ours as there are.
 * @param forwarded what arrived as X-Forwarded-For; each proxy adds the address it saw at its end
 * @param proxies how many of those entries come from proxies that are trusted, 0 when there is none
 */
export function clientAddress(
  socketAddress: string,
  forwarded: string | undefined,
  proxies: number,
): string {
  if (proxies === 0) return socketAddress;
  const told = (forwarded ?? '')
    .split(',')
    .map((entry) => entry.trim())
    .filter(Boolean);
  return told.at(-proxies) ?? socketAddress;
}

/** What counts as one place: an IPv4 address, or the /64 that an IPv6 network has. */
export function placeOf(address: string): string {
  const plain = address.replace(/^::ffff:(?=\d+\.)/i, '');
  if (!isIPv6(plain)) return plain;
  const [head, tail = ''] = plain.split('%')[0]!.split('::') as [string, string];
  const front = head.split(':').filter(Boolean);
  const back = tail.split(':').filter(Boolean);
  const gap = plain.includes('::') ? 8 - front.length - back.length : 0;
  const groups = [...front, ...new Array<string>(gap).fill('0'), ...back];
  return `${groups
    .slice(0, 4)
    .map((group) => parseInt(group, 16).toString(16))
    .join(':')}::/64`;
}

/** The place a request comes from, for limits. */
export function placeOfRequest(request: { headers: Headers }): string {
  return placeOf(request.headers.get(ADDRESS_HEADER) ?? 'unknown');
}
