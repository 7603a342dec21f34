'use client';

import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useCallback, useState } from 'react';
import type { Gear, GearList } from '@/steps/gear/schema';
import { countWord } from '@/ui/format';
import { FEW, SearchField, useList } from '@/ui/lists';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { useSend } from '@/ui/useSend';
import { useUndo } from '@/ui/useUndo';
import { GearDialog } from './GearDialog';
import { ImportDialog } from './ImportDialog';
import { GEAR } from '@/steps/gear/endpoints';

/** As many as a sheet has room for. */
const MOST_BESIDE = 6;

const GearGrid = dynamic(() => import('./GearGrid').then((module) => module.GearGrid), {
  ssr: false,
  loading: () => <Typography>The table is being laid out …</Typography>,
});

export function GearScreen({ name, list }: { name: string; list: GearList }) {
  const { items, query, found, all, bare, bareNames, simulated } = list;
  const { send } = useSend();
  const offerUndo = useUndo();
  const [open, setOpen] = useState<string | null>(null);
  const [importing, setImporting] = useState(false);
  const [chosen, setChosen] = useState<string[]>([]);
  const go = useList('/gear', query, { sort: 'kind' });
  const shown = items.find(({ id }) => id === open) ?? null;
  const openItem = useCallback((item: Gear) => setOpen(item.id), []);
  const remove = useCallback(
    async (item: Gear) => {
      if (!(await send(GEAR.remove, { gearId: item.id }))) return;
      offerUndo(`${item.name} is removed.`, (again) => again(GEAR.restore, { gearId: item.id }));
    },
    [send, offerUndo],
  );
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="Next">
            {all === 0
              ? 'Write down what the studio has, or bring a list in.'
              : 'Build chains of it in a comparison.'}
          </MarginNote>
          {bare > 0 && (
            <MarginNote title="Nothing known yet">
              {bareNames.join(', ')}
              {bare > bareNames.length ? ` and ${bare - bareNames.length} more` : ''}. The gain
              ladder has to assume all of it.
            </MarginNote>
          )}
          <MarginNote title="Keys">
            Arrows move, Enter writes in a cell, Escape puts it back.
          </MarginNote>
          {simulated && (
            <MarginNote title="Simulated">Gear and makers of the demo are made up.</MarginNote>
          )}
        </>
      }
    >
      <PageHeading
        finding={all === 0 ? 'No gear written down yet' : `${countWord(all, 'item')} of gear`}
        aside="What a chain can be made of: what it costs, what its data sheet says, and how it is to work with."
        action={
          <>
            {chosen.length > 1 && (
              <Button
                component={NextLink}
                href={`/gear/side-by-side?ids=${chosen.slice(0, MOST_BESIDE).join(',')}`}
                disabled={chosen.length > MOST_BESIDE}
                variant="outlined"
              >
                {chosen.length > MOST_BESIDE ? 'Six at most side by side' : 'Side by side'}
              </Button>
            )}
            <Button component="a" href="/api/gear/file" variant="outlined" disabled={all === 0}>
              Export
            </Button>
            <Button variant="outlined" onClick={() => setImporting(true)}>
              Import
            </Button>
            <Button variant="contained" onClick={() => setOpen('new')}>
              Add an item
            </Button>
          </>
        }
      />
      {(all > FEW || query.q !== '') && <SearchField q={query.q} onSearch={(q) => go({ q })} />}
      {all === 0 ? (
        <Typography sx={{ maxWidth: '60ch' }}>
          Microphones, boosters, preamps, converters and what holds them. Names and prices are
          enough to begin with; each spec that is added makes the gain ladder surer.
        </Typography>
      ) : found === 0 ? (
        <Typography>
          Nothing of the gear has “{query.q}” in its name or what is written of it.{' '}
          <Link underline="always" component={NextLink} href="/gear">
            Show all
          </Link>
        </Typography>
      ) : (
        <GearGrid
          list={list}
          onOpen={openItem}
          onRemove={(item) => void remove(item)}
          onGo={go}
          onChoose={setChosen}
        />
      )}
      {(shown ?? open === 'new') && (
        <GearDialog key={open} gear={shown} onClose={() => setOpen(null)} />
      )}
      {importing && <ImportDialog onClose={() => setImporting(false)} />}
    </StudioFrame>
  );
}
