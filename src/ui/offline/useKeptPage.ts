'use client';

import { useEffect, useState } from 'react';
import { type ForgetAsked, isOwnFile, type KeepAsked, PAGES_CACHE } from './kept-pages';

/** Everything this page was made of, which may have come before anything could keep it. */
function partsOfPage(): string[] {
  const files = performance
    .getEntriesByType('resource')
    .map(({ name }) => new URL(name))
    .filter(({ origin, pathname }) => origin === location.origin && isOwnFile(pathname));
  return [location.href.split('#')[0]!, ...files.map(({ href }) => href)];
}

/**
 * Keeps this page on the device, so that it opens again without a connection.
 * @param version of what it shows; another one is kept anew
 * @returns whether it will; browsers do so only over HTTPS or on the machine itself
 */
export function useKeptPage(version = ''): boolean {
  const [kept, setKept] = useState<string | null>(null);
  useEffect(() => {
    if (!('serviceWorker' in navigator)) return;
    let left = false;
    const keep = async () => {
      await navigator.serviceWorker.register('/service-worker.js');
      const { active } = await navigator.serviceWorker.ready;
      const { port1, port2 } = new MessageChannel();
      port1.onmessage = () => {
        if (!left) setKept(version);
      };
      const asked: KeepAsked = { keep: partsOfPage() };
      active?.postMessage(asked, [port2]);
    };
    // A browser may refuse to keep anything: then the page is as good as any other.
    keep().catch(() => undefined);
    return () => {
      left = true;
    };
  }, [version]);
  return kept === version;
}

/** Nobody who comes after on this device opens what was kept for somebody else. */
export async function forgetKeptPages(): Promise<void> {
  if (!('caches' in window)) return;
  await caches.delete(PAGES_CACHE).catch(() => false);
  const asked: ForgetAsked = { forget: true };
  navigator.serviceWorker.controller?.postMessage(asked);
}
