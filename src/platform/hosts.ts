import { isIP } from 'node:net';
import os from 'node:os';

const LOOPBACK = /^(localhost|127(\.\d{1,3}){3}|\[::1\])$/;

/** The name in a Host header, without its port. */
export function hostName(header: string): string {
  return header.replace(/:\d*$/, '').toLowerCase();
}

/** Whether a link to this host opens on this machine only. */
export const isLoopback = (host: string): boolean => LOOPBACK.test(hostName(host));

/**
 * Names by which the bank may be asked for besides loopback: those listed, or this machine's own name and
 * addresses when it listens to a network and none are. A web page whose name was made to point here
 * (rebinding) asks by its own name, and is refused.
 * @param listed ZEITBANK_HOSTS: names separated by commas or spaces
 */
export function hostsOf(listed: string | undefined, listening: string): Set<string> {
  const names = (listed ?? '').split(/[\s,]+/).filter(Boolean);
  if (names.length > 0) return new Set(names.map(hostName));
  if (isLoopback(listening)) return new Set();
  const own = os.hostname().toLowerCase();
  const addresses = Object.values(os.networkInterfaces())
    .flat()
    .flatMap((one) => (one ? [isIP(one.address) === 6 ? `[${one.address}]` : one.address] : []));
  return new Set([own, `${own}.local`, hostName(listening), ...addresses]);
}

export function mayBeAsked(header: string | undefined, hosts: ReadonlySet<string>): boolean {
  if (header === undefined) return false;
  return isLoopback(header) || hosts.has(hostName(header));
}
