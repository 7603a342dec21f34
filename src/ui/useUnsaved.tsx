'use client';

import { useRouter } from 'next/navigation';
import { type ReactNode, useEffect, useState } from 'react';
import { ConfirmDialog } from './ConfirmDialog';

/** The browser's own account of where a page goes; not in every browser. */
interface Navigation extends EventTarget {
  traverseTo(key: string): unknown;
}
interface NavigateEvent extends Event {
  navigationType: 'push' | 'replace' | 'reload' | 'traverse';
  destination: { key: string };
}

function Question({ onStay, onLeave }: { onStay: () => void; onLeave: () => void }) {
  return (
    <ConfirmDialog
      open
      title="Leave without saving?"
      text="What was changed here is not saved yet; it is lost when you leave."
      back="Stay here"
      action="Leave"
      onBack={onStay}
      onConfirm={onLeave}
    />
  );
}

/** The link under a click that would lead away in this window; null for any other click. */
function leaving(event: MouseEvent): string | null {
  if (event.defaultPrevented || event.button !== 0) return null;
  if (event.metaKey || event.ctrlKey || event.shiftKey || event.altKey) return null;
  const link = event.target instanceof Element ? event.target.closest('a[href]') : null;
  if (!(link instanceof HTMLAnchorElement) || link.target === '_blank' || link.download)
    return null;
  const to = new URL(link.href, location.href);
  return to.origin === location.origin && to.pathname !== location.pathname
    ? `${to.pathname}${to.search}`
    : null;
}

/**
 * Asks before a page with unsaved changes is left: by a link, by the browser's way back, or by closing the window.
 * @returns what is to be shown; nothing while nobody leaves
 */
export function useUnsaved(dirty: boolean): ReactNode {
  const router = useRouter();
  const [leave, setLeave] = useState<{ go: () => void } | null>(null);
  /** Once somebody has said so, nothing stands in the way any more. */
  const [going, setGoing] = useState<{ go: () => void } | null>(null);
  useEffect(() => {
    if (going) {
      going.go();
      return;
    }
    if (!dirty) return;
    const unload = (event: BeforeUnloadEvent) => event.preventDefault();
    const click = (event: MouseEvent) => {
      const to = leaving(event);
      if (to === null) return;
      event.preventDefault();
      event.stopPropagation();
      setLeave({ go: () => router.push(to) });
    };
    const { navigation } = window as unknown as { navigation?: Navigation };
    const back = (event: Event) => {
      const { navigationType, destination } = event as NavigateEvent;
      if (navigationType !== 'traverse' || !event.cancelable) return;
      event.preventDefault();
      setLeave({ go: () => void navigation?.traverseTo(destination.key) });
    };
    window.addEventListener('beforeunload', unload);
    document.addEventListener('click', click, { capture: true });
    navigation?.addEventListener('navigate', back);
    return () => {
      window.removeEventListener('beforeunload', unload);
      document.removeEventListener('click', click, { capture: true });
      navigation?.removeEventListener('navigate', back);
    };
  }, [dirty, going, router]);
  return leave ? (
    <Question
      onStay={() => setLeave(null)}
      onLeave={() => {
        setLeave(null);
        setGoing(leave);
      }}
    />
  ) : null;
}

/**
 * The same for a dialog: closing it with unsaved changes asks first.
 * @returns what closes the dialog, and what is to be shown
 */
export function useUnsavedDialog(
  dirty: boolean,
  onClose: () => void,
): { close: () => void; question: ReactNode } {
  const [asking, setAsking] = useState(false);
  const leavingPage = useUnsaved(dirty);
  return {
    close: () => (dirty ? setAsking(true) : onClose()),
    question: asking ? <Question onStay={() => setAsking(false)} onLeave={onClose} /> : leavingPage,
  };
}
