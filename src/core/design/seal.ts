export type Json =
  null | boolean | number | string | readonly Json[] | { readonly [name: string]: Json };

/** JSON with sorted names and no spaces (the rules of RFC 8785 for what is used here). */
export function canonicalJson(value: Json): string {
  if (value === null || typeof value !== 'object') return JSON.stringify(value);
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(',')}]`;
  const entries = Object.entries(value as { [name: string]: Json })
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, entry]) => `${JSON.stringify(name)}:${canonicalJson(entry)}`);
  return `{${entries.join(',')}}`;
}

/** SHA-256 of UTF-8 text as lower-case hex; what `sha256sum` prints for a file of that text. */
export async function sha256Hex(text: string): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text));
  return [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('');
}
