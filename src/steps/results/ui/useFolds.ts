'use client';

import { usePathname, useSearchParams } from 'next/navigation';
import type { Folds } from './folds/fold';

/** What is open stands in the address, so that a link or a reload shows the same page. */
export function useFolds(): Folds {
  const search = useSearchParams() ?? new URLSearchParams();
  const path = usePathname();
  const open = (search.get('open') ?? '').split(' ').filter(Boolean);
  return {
    isOpen: (id) => open.includes(id),
    toggle(id) {
      const next = open.includes(id) ? open.filter((one) => one !== id) : [...open, id];
      const query = new URLSearchParams(search);
      if (next.length > 0) query.set('open', next.join(' '));
      else query.delete('open');
      const text = query.toString();
      window.history.replaceState(null, '', text ? `${path}?${text}` : path);
    },
  };
}
