import 'server-only';
import { headers } from 'next/headers';

/** The address under which this page was asked for, for links that others open. */
export async function origin(): Promise<string> {
  const asked = await headers();
  const host = asked.get('x-forwarded-host') ?? asked.get('host') ?? 'localhost';
  return `${asked.get('x-forwarded-proto') ?? 'http'}://${host}`;
}
