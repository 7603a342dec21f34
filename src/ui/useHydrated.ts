import { useSyncExternalStore } from 'react';

const never = () => () => undefined;

/** Whether the page is awake: what is chosen on it before would be lost. */
export function useHydrated(): boolean {
  return useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
}
