'use client';

import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { SittingListener } from '@/steps/sitting/schema';
import { DataTable } from '@/ui/DataTable';
import { ConfirmDialog } from '@/ui/ConfirmDialog';
import { day } from '@/ui/format';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { SITTINGS } from '@/steps/sitting/endpoints';
import type { Ids } from '@/platform/endpoint';

/** "2, the second 3 May, 12:10", and whose browser it was before. */
function deviceWords(
  { devices, sameAsSeat }: SittingListener,
  listeners: readonly SittingListener[],
): string {
  const other = listeners.find(({ seat }) => seat === sameAsSeat);
  const counted =
    devices.length > 1
      ? `${devices.length}, the last from ${day(devices[devices.length - 1]!)}`
      : String(devices.length || '–');
  return other ? `${counted}; the browser of ${other.alias}` : counted;
}

/** Who has come, and how far they are; on their request a person is forgotten. */
export function PanelTable({
  ids,
  trialsEach,
  listeners,
  open = false,
}: {
  /** Address of the sitting's routes. */
  ids: Ids<typeof SITTINGS.release.path>;
  trialsEach: number;
  listeners: readonly SittingListener[];
  /** Whether seats can still be taken. */
  open?: boolean;
}) {
  const { send } = useSend();
  const [leaving, setLeaving] = useState<SittingListener | null>(null);
  if (listeners.length === 0) return null;
  return (
    <>
      <Typography variant="h2" sx={{ mt: 4, mb: 0.5 }}>
        The panel
      </Typography>
      <DataTable
        label="The panel"
        sx={{ maxWidth: 960 }}
        rows={listeners}
        keyOf={({ seat }) => String(seat)}
        columns={[
          { label: 'Listener', cell: ({ alias }) => alias, by: ({ alias }) => alias },
          { label: 'On', cell: ({ playback }) => playback },
          {
            label: 'Answers',
            cell: ({ answers }) => `${answers} of ${trialsEach}`,
            by: ({ answers }) => answers,
            right: true,
          },
          {
            label: 'Volume changed',
            cell: ({ levelChanges }) => levelChanges || '–',
            by: ({ levelChanges }) => levelChanges,
            mostFirst: true,
            right: true,
          },
          { label: 'Devices', cell: (listener) => deviceWords(listener, listeners) },
          {
            label: '',
            id: 'actions',
            right: true,
            sx: { whiteSpace: 'nowrap' },
            cell: (listener) => (
              <>
                {open && listener.answers === 0 && !listener.forgotten && (
                  <Button
                    size="small"
                    aria-label={`Release the seat of ${listener.alias}`}
                    onClick={() => void send(SITTINGS.release, ids, { seat: listener.seat })}
                  >
                    Release the seat
                  </Button>
                )}
                {!listener.forgotten && (
                  <Button
                    size="small"
                    aria-label={`Forget ${listener.alias}`}
                    onClick={() => setLeaving(listener)}
                  >
                    Forget
                  </Button>
                )}
              </>
            ),
          },
        ]}
      />
      <Typography sx={{ mt: 1, color: token('soft'), fontSize: '0.875rem', maxWidth: '76ch' }}>
        Who asks for it is forgotten: the name and what they listened on go for good, the answers
        stay without them.
      </Typography>
      <ConfirmDialog
        open={leaving !== null}
        title={`Forget ${leaving?.alias ?? ''}?`}
        text="Name and playback are taken away and cannot be brought back; an unfinished sitting ends for them. The answers stay, without a name."
        action="Forget for good"
        onBack={() => setLeaving(null)}
        onConfirm={() => {
          if (leaving) void send(SITTINGS.forget, ids, { seat: leaving.seat });
          setLeaving(null);
        }}
      />
    </>
  );
}
