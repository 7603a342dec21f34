'use client';

import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { DataTable } from '@/ui/DataTable';
import { countWord, day } from '@/ui/format';
import { ConfirmDialog } from '@/ui/ConfirmDialog';
import { FEW, ListPages, SearchField, useList } from '@/ui/lists';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { useSend } from '@/ui/useSend';
import type { Panelist, PanelList } from '../schema';
import { PanelistDialog } from './PanelistDialog';
import { PANEL } from '@/steps/panel/endpoints';

/** Who listens for this studio, and what they gave so far. */
export function PanelScreen({ name, panel }: { name: string; panel: PanelList }) {
  const { people, query, found, all, minutes } = panel;
  const { send } = useSend();
  const go = useList('/panel', query, { sort: 'name' });
  const [open, setOpen] = useState<Panelist | 'new' | null>(null);
  const [leaving, setLeaving] = useState<Panelist | null>(null);
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="In their own words">
            Write only what somebody told you and agrees to. Hearing is nobody’s business but
            theirs; it leaves no one out.
          </MarginNote>
          <MarginNote title="History">
            Counted for sittings they joined by a link of their own.
          </MarginNote>
          {people.some(({ simulated }) => simulated) && (
            <MarginNote title="Simulated">The listeners of the demo are made up.</MarginNote>
          )}
        </>
      }
    >
      <PageHeading
        finding={
          all === 0
            ? 'Nobody is on the panel yet'
            : `${countWord(all, 'listener')} on the panel, ${Math.round(minutes)} minutes given`
        }
        aside="Their minutes are what a comparison is paid with. Send each a link of their own from an open sitting."
        action={
          <Button variant="contained" onClick={() => setOpen('new')}>
            Add a listener
          </Button>
        }
      />
      {(all > FEW || query.q !== '') && <SearchField q={query.q} onSearch={(q) => go({ q })} />}
      {all > 0 && found === 0 && (
        <Typography>
          Nobody of the panel has “{query.q}” in their name or their words.{' '}
          <Link underline="always" component={NextLink} href="/panel">
            Show all
          </Link>
        </Typography>
      )}
      {all === 0 && (
        <Typography sx={{ maxWidth: '60ch' }}>
          A sitting can do without: whoever has the shared link may join. A panel that is written
          down can be asked one by one, and a link can be withdrawn.
        </Typography>
      )}
      {found > 0 && (
        <DataTable
          label="The panel"
          rows={people}
          keyOf={({ id }) => id}
          sorted={{ id: query.sort, desc: query.sort === 'last' }}
          onSort={(id) => go({ sort: id === 'last' ? 'last' : 'name' })}
          columns={[
            {
              label: 'Listener',
              id: 'name',
              cell: ({ alias }) => alias,
              by: ({ alias }) => alias,
            },
            { label: 'Experience', cell: ({ experience }) => experience || '–' },
            { label: 'Hearing, as they say', cell: ({ hearing }) => hearing || '–' },
            { label: 'Listens on', cell: ({ playback }) => playback || '–' },
            { label: 'Sittings', cell: ({ sittings }) => sittings, right: true },
            { label: 'Minutes', cell: (one) => Math.round(one.minutes), right: true },
            {
              label: 'Last',
              id: 'last',
              cell: ({ lastAt }) => (lastAt ? day(lastAt) : '–'),
              by: ({ lastAt }) => lastAt,
              mostFirst: true,
              sx: { whiteSpace: 'nowrap' },
            },
            {
              label: '',
              id: 'actions',
              right: true,
              sx: { whiteSpace: 'nowrap' },
              cell: (one) => (
                <>
                  <Button
                    size="small"
                    aria-label={`Change ${one.alias}`}
                    onClick={() => setOpen(one)}
                  >
                    Change
                  </Button>
                  <Button
                    size="small"
                    aria-label={`Forget ${one.alias}`}
                    onClick={() => setLeaving(one)}
                  >
                    Forget
                  </Button>
                </>
              ),
            },
          ]}
        />
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
      {open && (
        <PanelistDialog
          key={open === 'new' ? 'new' : open.id}
          panelist={open === 'new' ? null : open}
          onClose={() => setOpen(null)}
        />
      )}
      <ConfirmDialog
        open={leaving !== null}
        title={`Forget ${leaving?.alias ?? ''}?`}
        text="They leave the panel, their links stop working, and every sitting they took part in forgets their name and what they listened on. It cannot be brought back. The answers stay, without a name."
        action="Forget for good"
        onBack={() => setLeaving(null)}
        onConfirm={() => {
          if (leaving) void send(PANEL.forget, { panelistId: leaving.id });
          setLeaving(null);
        }}
      />
    </StudioFrame>
  );
}
