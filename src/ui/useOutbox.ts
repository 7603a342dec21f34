'use client';

import { useEffect, useSyncExternalStore } from 'react';
import type { Outbox, OutboxState } from './outbox';

/**
 * Follows an outbox, keeps it sending, and asks before the page is left while something waits that would be lost
 * with it. @param empty what is shown before there is one
 */
export function useOutbox<T>(outbox: Outbox<T> | null, empty: OutboxState<T>): OutboxState<T> {
  const state = useSyncExternalStore(
    outbox?.subscribe ?? never,
    outbox?.snapshot ?? (() => empty),
    () => empty,
  );
  useEffect(() => {
    if (!outbox) return;
    const end = outbox.start();
    window.addEventListener('online', outbox.tryNow);
    return () => {
      end();
      window.removeEventListener('online', outbox.tryNow);
    };
  }, [outbox]);
  const lost = state.waiting.length > 0 && state.kept === 'in this page only';
  useEffect(() => {
    if (!lost) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [lost]);
  return state;
}

const never = () => () => undefined;
