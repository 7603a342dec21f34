'use client';

import { usePathname, useSearchParams } from 'next/navigation';
import type { Folds } from './folds/fold';

const openIn = (query: URLSearchParams): string[] =>
  (query.get('open') ?? '').split(' ').filter(Boolean);

/** What is open stands in the address, so that a link or a reload shows the same page. */
export function useFolds(): Folds {
  const search = useSearchParams() ?? new URLSearchParams();
  const path = usePathname();
  const open = openIn(search);
  return {
    isOpen: (id) => open.includes(id),
    toggle(id) {
      // As the address stands now: another click may have come before this page was drawn anew.
      const query = new URLSearchParams(window.location.search);
      const before = openIn(query);
      const next = before.includes(id) ? before.filter((one) => one !== id) : [...before, id];
      if (next.length > 0) query.set('open', next.join(' '));
      else query.delete('open');
      const text = query.toString();
      window.history.replaceState(null, '', text ? `${path}?${text}` : path);
    },
  };
}
