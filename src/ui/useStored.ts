'use client';

import { useCallback, useState, useSyncExternalStore } from 'react';

const CHANGED = 'zeitbank stored';

/** A text on this device, shared by all that show it; in this page only where a browser stores nothing. */
export function useStored(name: string): [string, (change: (before: string) => string) => void] {
  const [unstored] = useState(() => new Map<string, string>());
  const now = useCallback(() => {
    try {
      return unstored.get(name) ?? localStorage.getItem(name) ?? '';
    } catch {
      return '';
    }
  }, [name, unstored]);
  const follow = useCallback((look: () => void) => {
    const names = [CHANGED, 'storage'];
    for (const event of names) window.addEventListener(event, look);
    return () => {
      for (const event of names) window.removeEventListener(event, look);
    };
  }, []);
  const text = useSyncExternalStore(follow, now, () => '');
  const change = useCallback(
    (alter: (before: string) => string) => {
      const altered = alter(now());
      try {
        localStorage.setItem(name, altered);
      } catch {
        unstored.set(name, altered);
      }
      window.dispatchEvent(new Event(CHANGED));
    },
    [name, now, unstored],
  );
  return [text, change];
}
