'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { Gear } from '@/steps/gear/schema';
import { sheetOf } from '@/steps/gear/sheet';
import { type Column, DataTable } from '@/ui/DataTable';
import { CsvButton } from '@/ui/CsvButton';
import { countWord } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { token } from '@/ui/tokens';

/** Two to six items, fact by fact. */
export function SideBySideScreen({
  name,
  items,
  names,
}: {
  name: string;
  items: Gear[];
  /** Of accessories, by their ids. */
  names: Record<string, string>;
}) {
  const [onlyDifferences, setOnlyDifferences] = useState(false);
  const rows = sheetOf(items, (id) => names[id] ?? '');
  const differing = rows.filter(({ differs }) => differs).length;
  const shown = onlyDifferences ? rows.filter(({ differs }) => differs) : rows;
  const back = (
    <Button component={NextLink} href="/gear" sx={{ displayPrint: 'none' }}>
      To the gear list
    </Button>
  );
  if (items.length < 2) {
    return (
      <StudioFrame name={name} margin={null}>
        <PageHeading finding="Side by side stand two to six items" action={back} />
        <Typography>Tick them in the gear list, then press “Side by side”.</Typography>
      </StudioFrame>
    );
  }
  return (
    <StudioFrame
      name={name}
      margin={
        items.some(({ simulated }) => simulated) && (
          <MarginNote title="Simulated">Gear and makers of the demo are made up.</MarginNote>
        )
      }
    >
      <PageHeading
        finding={
          differing === 0
            ? 'No difference that is known'
            : `${countWord(differing, 'difference')} that ${differing === 1 ? 'is' : 'are'} known`
        }
        aside={items.map((item) => item.name).join(', ')}
        action={back}
      />
      <FormControlLabel
        label="Only what differs"
        control={<Switch checked={onlyDifferences} onChange={(_, on) => setOnlyDifferences(on)} />}
        sx={{ displayPrint: 'none' }}
      />
      <DataTable
        wide
        label="Items side by side"
        rows={shown}
        keyOf={({ label }) => label}
        columns={[
          {
            label: '',
            names: true,
            cell: ({ label }) => label,
            sx: { color: token('soft'), minWidth: 150 },
          },
          ...items.map((item, i): Column<(typeof shown)[number]> => ({
            id: item.id,
            label: item.name,
            headSx: { minWidth: 130 },
            cell: ({ cells }) =>
              cells[i] || <Box sx={{ color: token('soft'), fontWeight: 400 }}>not known</Box>,
            sxOf: ({ differs }) => ({ fontWeight: differs ? 600 : 400, verticalAlign: 'top' }),
          })),
        ]}
      />
      <CsvButton
        fileName="side-by-side.csv"
        rows={shown.map(({ label, cells }) => ({
          fact: label,
          ...Object.fromEntries(items.map((item, i) => [item.name, cells[i] ?? ''])),
        }))}
      />
    </StudioFrame>
  );
}
