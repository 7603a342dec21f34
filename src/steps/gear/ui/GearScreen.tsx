'use client';

import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useCallback, useState } from 'react';
import { fieldsOf } from '@/core/chain/kinds';
import type { Gear } from '@/steps/gear/schema';
import { countWord } from '@/ui/format';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { useSend } from '@/ui/useSend';
import { useUndo } from '@/ui/useUndo';
import { GearDialog } from './GearDialog';
import { ImportDialog } from './ImportDialog';

const GearGrid = dynamic(() => import('./GearGrid').then((module) => module.GearGrid), {
  ssr: false,
  loading: () => <Typography>The table is being laid out …</Typography>,
});

export function GearScreen({ name, gear }: { name: string; gear: Gear[] }) {
  const { send } = useSend();
  const offerUndo = useUndo();
  const [open, setOpen] = useState<string | null>(null);
  const [importing, setImporting] = useState(false);
  const shown = gear.find(({ id }) => id === open) ?? null;
  const openItem = useCallback((item: Gear) => setOpen(item.id), []);
  const remove = useCallback(
    async (item: Gear) => {
      if (!(await send('DELETE', `/api/gear/${item.id}`))) return;
      offerUndo(`${item.name} is removed.`, `/api/gear/${item.id}/restore`);
    },
    [send, offerUndo],
  );
  const bare = gear.filter(
    ({ kind, specs }) => fieldsOf(kind).length > 0 && Object.keys(specs).length === 0,
  );
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="Next">
            {gear.length === 0
              ? 'Write down what the studio has, or bring a list in.'
              : 'Build chains of it in a comparison.'}
          </MarginNote>
          {bare.length > 0 && (
            <MarginNote title="Nothing known yet">
              {bare
                .slice(0, 6)
                .map(({ name: item }) => item)
                .join(', ')}
              {bare.length > 6 ? ` and ${bare.length - 6} more` : ''}. The gain ladder has to assume
              all of it.
            </MarginNote>
          )}
          <MarginNote title="Keys">
            Arrows move, Enter writes in a cell, Escape puts it back.
          </MarginNote>
          {gear.some(({ simulated }) => simulated) && (
            <MarginNote title="Simulated">Gear and makers of the demo are made up.</MarginNote>
          )}
        </>
      }
    >
      <PageHeading
        finding={
          gear.length === 0
            ? 'No gear written down yet'
            : `${countWord(gear.length, 'item')} of gear`
        }
        aside="What a chain can be made of: what it costs, what its data sheet says, and how it is to work with."
        action={
          <>
            <Button
              component="a"
              href="/api/gear/file"
              variant="outlined"
              disabled={gear.length === 0}
            >
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
      {gear.length === 0 ? (
        <Typography sx={{ maxWidth: '60ch' }}>
          Microphones, boosters, preamps, converters and what holds them. Names and prices are
          enough to begin with; each spec that is added makes the gain ladder surer.
        </Typography>
      ) : (
        <GearGrid gear={gear} onOpen={openItem} onRemove={(item) => void remove(item)} />
      )}
      {(shown ?? open === 'new') && (
        <GearDialog key={open} gear={shown} all={gear} onClose={() => setOpen(null)} />
      )}
      {importing && <ImportDialog onClose={() => setImporting(false)} />}
    </StudioFrame>
  );
}
