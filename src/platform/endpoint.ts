import { z } from 'zod';

type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';

/** Names in square brackets in an address. */
type NamesIn<Path extends string> = Path extends `${string}[${infer Name}]${infer Rest}`
  ? Name | NamesIn<Rest>
  : never;

/** What fills the names of an address. */
export type Ids<Path extends string> = Record<NamesIn<Path>, string>;

/**
 * One way to ask the server: its handler keeps to it, and every caller is held to it.
 * @typeParam Sent what a caller sends; undefined without a body
 * @typeParam Taken what the handler gets of it
 * @typeParam Reply what comes back
 */
export interface Endpoint<Path extends string, Sent, Taken, Reply> {
  method: Method;
  path: Path;
  body: z.ZodType<Taken, Sent> | null;
  reply: z.ZodType<Reply>;
  /** Of the body; undefined for the usual limit. */
  mostBytes?: number;
}

/** Success, and nothing more to tell. */
export const done = z.object({});
/** What was made. */
export const made = z.object({ id: z.string() });
/** A secret, told once. */
export const secret = z.object({ token: z.string() });
/** What a picker looks for. */
export const found = z.object({ found: z.array(z.object({ id: z.string(), name: z.string() })) });

export function endpoint<const Path extends string, Reply, Sent = undefined, Taken = undefined>(
  method: Method,
  path: Path,
  reply: z.ZodType<Reply>,
  body?: z.ZodType<Taken, Sent>,
  mostBytes?: number,
): Endpoint<Path, Sent, Taken, Reply> {
  return { method, path, reply, body: body ?? null, mostBytes };
}

/** Where to ask: the address with its names filled, and what is asked of it. */
export function addressOf<Path extends string>(
  { path }: { path: Path },
  ids: Ids<Path>,
  query: Record<string, string> = {},
): string {
  const known: Partial<Record<string, string>> = ids;
  const filled = path.replace(/\[(\w+)\]/g, (_, name: string) =>
    encodeURIComponent(known[name] ?? ''),
  );
  const asked = new URLSearchParams(query);
  return asked.size > 0 ? `${filled}?${asked}` : filled;
}
