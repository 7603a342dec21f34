'use client';

import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import { BeingDrawn } from '@/ui/BeingDrawn';
import { DataTable } from '@/ui/DataTable';
import { countWord, day } from '@/ui/format';
import { ListPages, useList } from '@/ui/lists';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import type { EarsView } from '../schema';
import { ForPanel } from './ForPanel';
import { PROGRESS_PX } from './progress-height';

const ProgressChart = dynamic(() => import('./ProgressChart'), {
  ssr: false,
  loading: () => <BeingDrawn height={PROGRESS_PX} />,
});

/** How one's own ears went on, and what the panel trains with. */
export function EarsScreen({ name, view }: { name: string; view: EarsView }) {
  const { query, found, andOlder, goesOn, rows, progress, panel } = view;
  const go = useList('/training', query, { sort: 'newest' });
  const titles = [...new Set(progress.map(({ title }) => title))];
  const [chosen, setChosen] = useState<string | null>(null);
  const title = chosen ?? titles[0] ?? '';
  const points = useMemo(() => progress.filter((one) => one.title === title), [progress, title]);
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="How">
            Three sounds, one differs, equally loud unless loudness is what is trained. The size
            goes where an answer teaches most about your threshold: what you hear three times of
            four. The bars are 95 % sure.
          </MarginNote>
          <MarginNote title="What it is for">
            To know what you can hear before you judge what you prefer. A session is about eight
            minutes; fewer, more often, does more than many at once.
          </MarginNote>
          <MarginNote title="Your ears">
            Train at a moderate level, and not with ears that ring or are tired.
          </MarginNote>
        </>
      }
    >
      <PageHeading
        finding={
          found === 0
            ? goesOn
              ? 'Your first session is waiting to go on'
              : 'Train your ears'
            : andOlder
              ? `The last ${found} sessions of training`
              : `${countWord(found, 'session')} of training`
        }
        aside="What you can hear, skill by skill, on made-up sounds or your own clips."
        action={
          <Button variant="contained" component="a" href="/train">
            {goesOn ? 'Go on' : 'Train now'}
          </Button>
        }
      />
      {titles.length > 0 && (
        <>
          <TextField
            select
            size="small"
            label="Threshold of"
            value={title}
            onChange={({ target }) => setChosen(target.value)}
            sx={{ width: 420, maxWidth: '100%', mb: 1 }}
          >
            {titles.map((one) => (
              <MenuItem key={one} value={one}>
                {one}
              </MenuItem>
            ))}
          </TextField>
          <ProgressChart title={title} points={points} />
          {panel
            .filter((one) => one.title === title)
            .map(({ says }) => (
              <Typography key={says}>{says}</Typography>
            ))}
        </>
      )}
      {found > 0 && (
        <DataTable
          label="Sessions"
          rows={rows}
          keyOf={({ id }) => id}
          columns={[
            { label: 'Day', cell: ({ at }) => day(new Date(at)), sx: { whiteSpace: 'nowrap' } },
            { label: 'Skill', cell: ({ title: own, test }) => (test ? `${own} (test)` : own) },
            { label: 'On', cell: ({ on }) => on, sx: { whiteSpace: 'nowrap' } },
            { label: 'Came to', cell: ({ says }) => says },
          ]}
        />
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
      <ForPanel view={view} />
    </StudioFrame>
  );
}
