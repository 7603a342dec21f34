'use client';

import type { ReactNode } from 'react';
import { useHydrated } from './useHydrated';

/** Fields and buttons of a page stay shut until it is awake: what somebody wrote before would be lost. */
export function Awake({ children }: { children: ReactNode }) {
  return (
    <fieldset role="presentation" disabled={!useHydrated()} style={{ display: 'contents' }}>
      {children}
    </fieldset>
  );
}
