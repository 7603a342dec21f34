'use client';

import useSWR, { type SWRConfiguration, type SWRResponse } from 'swr';
import { addressOf, type Endpoint, type Ids } from '@/platform/endpoint';
import { requestAt, type RequestError } from './request';

/**
 * Reads what an endpoint answers, and keeps it for whoever asks again on this page.
 * @param ids null asks for nothing
 * @param query what is asked of a list
 */
export function useRead<Path extends string, Taken, Reply>(
  endpoint: Endpoint<Path, undefined, Taken, Reply>,
  ids: Ids<Path> | null,
  {
    query,
    ...how
  }: SWRConfiguration<Reply, RequestError> & { query?: Record<string, string> } = {},
): SWRResponse<Reply, RequestError> {
  return useSWR<Reply, RequestError>(
    ids && addressOf(endpoint, ids, query),
    (address: string) => requestAt<Reply>('GET', address),
    how,
  );
}
