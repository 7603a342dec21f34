'use client';

import { useEffect, useState } from 'react';
import type { Endpoint, Ids } from '@/platform/endpoint';
import type { ListQuery } from '@/platform/list-query';
import { useRead } from './useRead';

/**
 * One page of a list that lies beside what the page itself is about: searched, sorted and turned without leaving.
 * @param stand something of the page that comes anew whenever the page is read again; the list then is, too
 */
export function useListRead<Path extends string, Row, Query extends ListQuery>(
  endpoint: Endpoint<Path, undefined, undefined, { rows: Row[]; found: number }>,
  ids: Ids<Path>,
  usual: Query,
  stand: object,
) {
  const [query, setQuery] = useState(usual);
  const { data, error, mutate } = useRead(endpoint, ids, {
    query: Object.fromEntries(Object.entries(query).map(([name, value]) => [name, String(value)])),
    keepPreviousData: true,
  });
  useEffect(() => {
    void mutate();
  }, [stand, mutate]);
  return {
    query,
    rows: data?.rows ?? null,
    found: data?.found ?? 0,
    error,
    /** A search and an order begin on the first page. */
    go: (change: Partial<Query>) => setQuery({ ...query, page: 1, ...change }),
    readAgain: () => void mutate(),
  };
}
