'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { ChainsView } from '@/steps/chains/service';
import { MarginNote } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { CHAINS } from '@/steps/chains/endpoints';

/** What could get hurt. Read notes stay; they can be acknowledged, not put away. */
export function CautionNotes({
  comparisonId,
  cautions,
}: {
  comparisonId: string;
  cautions: ChainsView['cautions'];
}) {
  const { send, busy } = useSend();
  if (cautions.length === 0) return null;
  return (
    <MarginNote title="Cautions">
      {cautions.map(({ caution: { id, title, text, defersTo }, read }) => (
        <Box
          key={id}
          role="note"
          sx={{
            mt: 1,
            p: 1,
            bgcolor: token('ochreWash'),
            borderLeft: `3px solid ${token('ochre')}`,
          }}
        >
          <Box sx={{ fontWeight: 600, color: token('ochre') }}>{title}</Box>
          {text} What counts: {defersTo}.
          <Box sx={{ mt: 0.5 }}>
            {read ? (
              <Box component="span" sx={{ color: token('soft') }}>
                Read.
              </Box>
            ) : (
              <Button
                size="small"
                disabled={busy}
                sx={{ p: 0, minWidth: 0 }}
                onClick={() => void send(CHAINS.acknowledge, { id: comparisonId }, { caution: id })}
              >
                I have read this
              </Button>
            )}
          </Box>
        </Box>
      ))}
    </MarginNote>
  );
}
