'use client';

import Box from '@mui/material/Box';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { token } from './tokens';

const RETRY_MS = 2000;

/** Keeps the page current: reads it anew when something changed, and says when the bank is away. */
export function LiveRefresh({ comparisonId, seen }: { comparisonId: string; seen: string }) {
  const router = useRouter();
  const [away, setAway] = useState(false);
  // Told when a stream opens; what is read later does not open another.
  const latest = useRef(seen);
  useEffect(() => {
    latest.current = seen;
  }, [seen]);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let wasAway = false;
    let source: EventSource;
    // Several changes at once are read once.
    const refreshSoon = () => {
      clearTimeout(timer);
      timer = setTimeout(() => void refresh(), 150);
    };
    // A page whose data cannot be fetched is left for the browser's own error: ask first.
    const refresh = async () => {
      const there = await fetch('/api/health', { cache: 'no-store' }).catch(() => null);
      if (there?.ok) router.refresh();
    };
    const mark = (now: boolean) => {
      setAway(now);
      if (wasAway && !now) refreshSoon();
      wasAway = now;
    };
    const open = () => {
      source = new EventSource(
        `/api/comparisons/${comparisonId}/events?seen=${encodeURIComponent(latest.current)}`,
      );
      source.addEventListener('open', () => mark(false));
      source.addEventListener('changed', refreshSoon);
      source.addEventListener('away', () => mark(true));
      source.addEventListener('back', () => mark(false));
      source.addEventListener('error', () => {
        mark(true);
        // A browser gives up for good after an error status; a lost connection it repeats by itself.
        if (source.readyState === EventSource.CLOSED) timer = setTimeout(open, RETRY_MS);
      });
    };
    open();
    return () => {
      clearTimeout(timer);
      source.close();
    };
  }, [comparisonId, router]);
  if (!away) return null;
  return (
    <Box
      role="status"
      sx={{
        position: 'fixed',
        insetInline: 0,
        top: 0,
        zIndex: 1400,
        p: 1,
        textAlign: 'center',
        bgcolor: token('ochreWash'),
        color: token('ochre'),
        borderBottom: `1px solid ${token('ochre')}`,
      }}
    >
      The bank does not answer just now. Nothing stored is lost; this page goes on by itself.
    </Box>
  );
}
