'use client';

import Box from '@mui/material/Box';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { refreshIfThere } from './refreshIfThere';
import { token } from './tokens';

const RETRY_MS = 2000;
/** Changes that come together are read together. */
const TOGETHER_MS = 150;
/** A page is not read more often, however much happens; what happened last is always read. */
const LEAST_MS = 1000;

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
    let reading: ReturnType<typeof setTimeout> | undefined;
    let opening: ReturnType<typeof setTimeout> | undefined;
    let lastAt = -LEAST_MS;
    let wasAway = false;
    let source: EventSource;
    const refreshSoon = () => {
      if (reading !== undefined) return;
      const wait = Math.max(TOGETHER_MS, lastAt + LEAST_MS - performance.now());
      reading = setTimeout(() => {
        reading = undefined;
        lastAt = performance.now();
        void refreshIfThere(router);
      }, wait);
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
        if (source.readyState === EventSource.CLOSED) opening = setTimeout(open, RETRY_MS);
      });
    };
    open();
    return () => {
      clearTimeout(reading);
      clearTimeout(opening);
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
