'use client';

import { useRouter } from 'next/navigation';
import { startTransition, useEffect } from 'react';

const RETRY_MS = 3000;

/** For a page that could not be read: reads it again every few seconds until it can. */
export function useLookAgain(reset: () => void): void {
  const router = useRouter();
  useEffect(() => {
    const timer = setInterval(
      () =>
        startTransition(() => {
          router.refresh();
          reset();
        }),
      RETRY_MS,
    );
    return () => clearInterval(timer);
  }, [router, reset]);
}
