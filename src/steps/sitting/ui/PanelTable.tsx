'use client';

import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { listenerQuery, type ShownListener, type SittingCounts } from '@/steps/sitting/schema';
import { DataTable } from '@/ui/DataTable';
import { ConfirmDialog } from '@/ui/ConfirmDialog';
import { day } from '@/ui/format';
import { Note } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { FEW, ListPages, SearchField } from '@/ui/lists';
import { useListRead } from '@/ui/useListRead';
import { useSend } from '@/ui/useSend';
import { SITTINGS } from '@/steps/sitting/endpoints';
import type { Ids } from '@/platform/endpoint';

/** "2, the second 3 May, 12:10", and whose browser it was before. */
function deviceWords({ devices, sameAs }: ShownListener): string {
  const counted =
    devices.length > 1
      ? `${devices.length}, the last from ${day(new Date(devices[devices.length - 1]!))}`
      : String(devices.length || '–');
  return sameAs === null ? counted : `${counted}; the browser of ${sameAs}`;
}

/** Who has come, and how far they are; on their request a person is forgotten. */
export function PanelTable({
  ids,
  counts,
  open = false,
}: {
  /** Address of the sitting's routes. */
  ids: Ids<typeof SITTINGS.release.path>;
  counts: SittingCounts;
  /** Whether seats can still be taken. */
  open?: boolean;
}) {
  const { send } = useSend();
  const [leaving, setLeaving] = useState<ShownListener | null>(null);
  const list = useListRead(SITTINGS.listeners, ids, listenerQuery.parse({}), counts);
  if (counts.joined === 0) return null;
  const { query, rows, found, error, go, readAgain } = list;
  return (
    <>
      <Typography variant="h2" sx={{ mt: 4, mb: 0.5 }}>
        The panel
      </Typography>
      {(counts.joined > FEW || query.q !== '') && (
        <SearchField q={query.q} onSearch={(q) => go({ q })} />
      )}
      {error && <Note kind="problem">{error.message}</Note>}
      <DataTable
        label="The panel"
        sx={{ maxWidth: 960 }}
        rows={rows ?? []}
        sorted={{ id: query.sort, desc: query.sort === 'volume' }}
        onSort={(id) =>
          go({ sort: id === query.sort ? 'seat' : listenerQuery.shape.sort.parse(id) })
        }
        keyOf={({ seat }) => String(seat)}
        columns={[
          { label: 'Listener', id: 'alias', cell: ({ alias }) => alias, by: ({ alias }) => alias },
          { label: 'On', cell: ({ playback }) => playback },
          {
            label: 'Answers',
            id: 'answers',
            cell: ({ answers }) => `${answers} of ${counts.trialsEach}`,
            by: ({ answers }) => answers,
            right: true,
          },
          {
            label: 'Volume changed',
            id: 'volume',
            cell: ({ levelChanges }) => levelChanges || '–',
            by: ({ levelChanges }) => levelChanges,
            mostFirst: true,
            right: true,
          },
          { label: 'Devices', cell: deviceWords },
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
                    onClick={() =>
                      void send(SITTINGS.release, ids, { seat: listener.seat }).then(readAgain)
                    }
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
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
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
          if (leaving) void send(SITTINGS.forget, ids, { seat: leaving.seat }).then(readAgain);
          setLeaving(null);
        }}
      />
    </>
  );
}
