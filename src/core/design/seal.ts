import canonicalize from 'canonicalize';

export type Json =
  null | boolean | number | string | readonly Json[] | { readonly [name: string]: Json };

/** JSON with sorted names and no spaces, RFC 8785. @throws Error for what that cannot hold (NaN, half a character) */
export function canonicalJson(value: Json): string {
  return canonicalize(value) ?? 'null';
}

/** SHA-256 of UTF-8 text as lower-case hex; what `sha256sum` prints for a file of that text. */
export async function sha256Hex(text: string): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text));
  return [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('');
}
