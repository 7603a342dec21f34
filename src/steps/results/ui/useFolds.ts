'use client';

import { useSearchParams } from 'next/navigation';
import { useEffect, useState } from 'react';
import { rewriteQuery } from '@/ui/address';
import type { Folds } from './folds/fold';

const idsIn = (open: string | null | undefined): string[] =>
  (open ?? '').split(' ').filter(Boolean);

/** What is open is this page's own; the address follows, so that a link or a reload shows the same page. */
export function useFolds(): Folds {
  const asked = useSearchParams()?.get('open') ?? '';
  const [open, setOpen] = useState(() => idsIn(asked));
  // A link to a piece of this very page opens it and shuts nothing.
  const [followed, setFollowed] = useState(asked);
  if (asked !== followed) {
    const before = idsIn(followed);
    setFollowed(asked);
    setOpen([...new Set([...open, ...idsIn(asked).filter((id) => !before.includes(id))])]);
  }
  // After every drawing, as the router puts its own address back whenever it reads the page anew.
  useEffect(() => {
    const query = new URLSearchParams(window.location.search);
    if (idsIn(query.get('open')).join(' ') === open.join(' ')) return;
    if (open.length > 0) query.set('open', open.join(' '));
    else query.delete('open');
    // What a link opened and somebody shut is told to the router too, or the same link would lead nowhere.
    rewriteQuery(query, { told: idsIn(asked).some((id) => !open.includes(id)) });
  });
  return {
    isOpen: (id) => open.includes(id),
    toggle: (id) =>
      setOpen((now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id])),
  };
}
