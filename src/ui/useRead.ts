'use client';

import useSWR, { type SWRConfiguration, type SWRResponse } from 'swr';
import { request, type RequestError } from './request';

/** Reads what an address answers, and keeps it for whoever asks again on this page; null asks for nothing. */
export function useRead<T>(
  address: string | null,
  how: SWRConfiguration<T, RequestError> = {},
): SWRResponse<T, RequestError> {
  return useSWR<T, RequestError>(address, (at: string) => request<T>('GET', at), how);
}
