import { z } from 'zod';

/** Lines on one page of a list. */
export const LIST_PAGE = 25;

/**
 * What an address says of a list that is searched, sorted and paged; whatever is odd is as if it were not said.
 * @param sorts how it can be sorted, the usual way first
 */
export function listQueryOf<const S extends readonly [string, ...string[]]>(sorts: S) {
  return z.object({
    q: z.string().trim().max(80).catch('').default(''),
    sort: z.enum(sorts).catch(sorts[0]).default(sorts[0]),
    page: z.coerce.number().int().min(1).max(100_000).catch(1).default(1),
  });
}

/** What the address of a request says of a list, for `listQueryOf`. */
export function queryOf(request: Request): Record<string, string> {
  return Object.fromEntries(new URL(request.url).searchParams);
}

/** What is typed to find something in a list, from an address. */
export function typedText(request: Request): string {
  return listQueryOf(['found']).shape.q.parse(new URL(request.url).searchParams.get('q') ?? '');
}

/** The page that is shown: whoever asks for one behind the last gets the last. */
export function pageWithin(wanted: number, found: number, perPage = LIST_PAGE): number {
  return Math.max(1, Math.min(wanted, Math.ceil(found / perPage)));
}

export interface ListQuery {
  q: string;
  sort: string;
  page: number;
}

/** The address of a list: what is usual is not said. */
export function listAddress<Q extends ListQuery>(
  path: string,
  query: Q,
  usual: Partial<Q>,
): string {
  const { q, sort, page, ...more } = query;
  const standing: Record<string, unknown> = { q: '', page: 1, ...usual };
  const params = new URLSearchParams();
  for (const [name, value] of Object.entries({ q, sort, ...more, page })) {
    if (value !== standing[name]) params.set(name, String(value));
  }
  return params.size > 0 ? `${path}?${params}` : path;
}
