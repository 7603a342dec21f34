'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import type { ChainNumbers } from '@/core/checks/programme-numbers';
import { programmeLabel, programmeStep } from '@/core/checks/programme';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { type Column, DataTable } from '@/ui/DataTable';
import { CsvButton } from '@/ui/CsvButton';
import { level, signed } from '@/ui/format';
import { token } from '@/ui/tokens';
import type { BandLine } from './BandChart';

const BandChart = dynamic(() => import('./BandChart'), { ssr: false });

interface Picture {
  key: string;
  label: string;
  unit: string;
  lines: BandLine[];
}

/** The steps of one chain that have several details, one over another. */
function ownPictures({ chain, steps }: ChainNumbers): Picture[] {
  return [...new Set(steps.map(({ programme }) => programme))].flatMap((programme) => {
    const own = steps.filter((step) => step.programme === programme);
    if (own.length < 2) return [];
    const lines = own.map(({ detail, thirdsDb }) => ({
      name: programmeLabel(programme, detail),
      values: thirdsDb,
    }));
    const label = `${chain}: ${programmeStep(programme).label}`;
    return [{ key: `${chain} ${programme}`, label, unit: 'dBFS', lines }];
  });
}

/** Everything that has bands, as pictures to choose from. */
function picturesOf(numbers: ChainNumbers[]): Picture[] {
  const of = (key: string, label: string, unit: string, lines: BandLine[]): Picture[] =>
    lines.length > 0 ? [{ key, label, unit, lines }] : [];
  const floors = (which: 'room' | 'resistor') =>
    numbers.flatMap(({ chain, makeUpDb, [which]: floor }) =>
      floor
        ? [
            {
              name: chain,
              values: floor.thirdsDb.map((db) => (db === null ? null : db + (makeUpDb ?? 0))),
            },
          ]
        : [],
    );
  const angles = [...new Set(numbers.flatMap((n) => n.offAxis.map(({ detail }) => detail)))];
  const varied = new Map(
    numbers.flatMap(({ effects }) =>
      effects.map(({ programme, detail, against }) => {
        const key = `${programme} ${detail} ${against}`;
        const base = against === '' ? 'the plain test sound' : against;
        return [key, `${programmeLabel(programme, detail)}, against ${base}`] as const;
      }),
    ),
  );
  const rooms = numbers.flatMap(({ chain, treatment }) =>
    treatment ? [{ name: chain, values: treatment.thirdsDb }] : [],
  );
  return [
    ...of('room', 'noise in the room, at one loudness', 'dBFS', floors('room')),
    ...of('resistor', 'noise of the chain alone, at one loudness', 'dBFS', floors('resistor')),
    ...angles.flatMap((angle) =>
      of(
        `off axis ${angle}`,
        `${angle}° off axis against on axis`,
        'dB',
        numbers.flatMap((n) =>
          n.offAxis
            .filter(({ detail }) => detail === angle)
            .map(({ thirdsDb }) => ({ name: n.chain, values: thirdsDb })),
        ),
      ),
    ),
    ...[...varied].flatMap(([key, label]) =>
      of(
        key,
        label,
        'dB',
        numbers.flatMap((n) =>
          n.effects
            .filter((e) => `${e.programme} ${e.detail} ${e.against}` === key)
            .map(({ thirdsDb }) => ({ name: n.chain, values: thirdsDb })),
        ),
      ),
    ),
    ...of('treatment', 'treated room against untreated', 'dB', rooms),
    ...numbers.flatMap((n) => ownPictures(n)),
  ];
}

function headingOf(numbers: ChainNumbers[]): string {
  const floors = numbers.flatMap(({ chain, room }) =>
    room?.matchedADb == null ? [] : [{ chain, db: room.matchedADb }],
  );
  if (floors.length < 2) return 'What the test programme says';
  const ordered = floors.sort((a, b) => a.db - b.db);
  const [quietest, loudest] = [ordered[0]!, ordered[ordered.length - 1]!];
  return `At one loudness ${loudest.chain} has ${(loudest.db - quietest.db).toFixed(1)} dB more noise than ${quietest.chain}`;
}

/** A column of numbers; with a sign where they are differences. */
function number<Row extends object>(
  label: string,
  of: (row: Row) => number | null | undefined,
  withSign = true,
): Column<Row> {
  return {
    label,
    cell: (row) => (withSign ? signed(of(row), 1, '').trim() : level(of(row), 1)),
    by: of,
    right: true,
  };
}

type StepRow = {
  chain: string;
  step: string;
  levelDbfs: number | null;
  atOneLoudness: number | null;
  aWeightedDbfs: number | null;
  low100HzDb: number | null;
  high10kHzDb: number | null;
};

/** Every take of every step in plain numbers, folded: what the table above is made of. */
function StepTable({ numbers }: { numbers: ChainNumbers[] }) {
  const rows: StepRow[] = numbers.flatMap(({ chain, makeUpDb, steps }) =>
    steps.map((step) => ({
      chain,
      step: programmeLabel(step.programme, step.detail),
      levelDbfs: step.rmsDb,
      atOneLoudness: step.rmsDb === null || makeUpDb === null ? null : step.rmsDb + makeUpDb,
      aWeightedDbfs: step.aWeightedDb,
      low100HzDb: step.lowTiltDb,
      high10kHzDb: step.highTiltDb,
    })),
  );
  if (rows.length === 0) return null;
  return (
    <Box component="details" sx={{ my: 2 }}>
      <Box component="summary" sx={{ cursor: 'pointer', color: token('pen') }}>
        Every step of every chain: level and tilt
      </Box>
      <DataTable
        wide
        label="Every step in numbers"
        size="medium"
        rows={rows}
        keyOf={(_, i) => String(i)}
        columns={[
          { label: 'Chain', cell: ({ chain }) => chain, by: ({ chain }) => chain },
          { label: 'Step', cell: ({ step }) => step, by: ({ step }) => step },
          number('Level, dBFS', ({ levelDbfs }: StepRow) => levelDbfs, false),
          number('At one loudness', ({ atOneLoudness }: StepRow) => atOneLoudness, false),
          number('dBFS(A)', ({ aWeightedDbfs }: StepRow) => aWeightedDbfs, false),
          number('100 Hz against 1 kHz, dB', ({ low100HzDb }: StepRow) => low100HzDb),
          number('10 kHz against 1 kHz, dB', ({ high10kHzDb }: StepRow) => high10kHzDb),
        ]}
      />
      <CsvButton fileName="steps.csv" rows={rows} />
    </Box>
  );
}

/** Numbers of the test programme, chain by chain, with the pictures behind them. */
export function NumbersPanel({ numbers }: { numbers: ChainNumbers[] }) {
  const pictures = useMemo(() => picturesOf(numbers), [numbers]);
  const [chosen, setChosen] = useState('');
  const picture = pictures.find(({ key }) => key === chosen) ?? pictures.at(0);
  const angles = [...new Set(numbers.flatMap((n) => n.offAxis.map(({ detail }) => detail)))].sort(
    (a, b) => Number(a) - Number(b),
  );
  const near = (n: ChainNumbers) => n.lowRise.at(0);
  /** A column for each detail that any chain has. */
  const detailed = (
    what: string,
    of: (n: ChainNumbers) => { detail: string; db: number | null }[],
  ): Column<ChainNumbers>[] =>
    [...new Set(numbers.flatMap((n) => of(n).map(({ detail }) => detail)))].map((detail) =>
      number(
        detail === '' ? `${what}, dB` : `${what}, ${detail}, dB`,
        (n) => of(n).find((one) => one.detail === detail)?.db,
      ),
    );
  const columns: Column<ChainNumbers>[] = [
    number('Make-up, dB', ({ makeUpDb }) => makeUpDb),
    number('Room, dBFS(A)', ({ room }) => room?.aWeightedDb, false),
    number('Room at one loudness', ({ room }) => room?.matchedADb, false),
    number('Flat, at one loudness', ({ room }) => room?.matchedFlatDb, false),
    number('Chain alone, at one', ({ resistor }) => resistor?.matchedADb, false),
    ...angles.map((angle) =>
      number<ChainNumbers>(
        `At ${angle}°, dB`,
        ({ offAxis }) => offAxis.find(({ detail }) => detail === angle)?.overallDb,
      ),
    ),
    number('Low end close, dB', (n) => near(n)?.db),
    number('Plosives, dB', ({ plosiveDb }) => plosiveDb),
    ...detailed('Knocks', (n) => n.knocks),
    ...detailed('Wanted to noise', (n) => n.wantedToNoise),
  ];
  // Only what was measured of any chain.
  const shown = columns.filter(({ by }) => numbers.some((n) => by?.(n) != null));
  return (
    <Box sx={{ mt: 4 }}>
      <Typography variant="h2">{headingOf(numbers)}</Typography>
      <DataTable
        wide
        label="Numbers of the test programme"
        size="medium"
        sx={{ mt: 1 }}
        rows={numbers}
        keyOf={({ chain }) => chain}
        columns={[
          { label: 'Chain', cell: ({ chain }) => chain, by: ({ chain }) => chain },
          ...shown,
        ]}
      />
      <CsvButton
        fileName="test-programme.csv"
        rows={numbers.map((n) => ({
          chain: n.chain,
          ...Object.fromEntries(shown.map(({ label, by }) => [label, by?.(n) ?? null])),
        }))}
      />
      <StepTable numbers={numbers} />
      {picture && (
        <>
          <TextField
            select
            label="Picture of"
            value={picture.key}
            onChange={({ target }) => setChosen(target.value)}
            sx={{ mt: 2, minWidth: 320 }}
          >
            {pictures.map(({ key, label }) => (
              <MenuItem key={key} value={key}>
                {label}
              </MenuItem>
            ))}
          </TextField>
          <BandChart lines={picture.lines} unit={picture.unit} label={picture.label} />
          <CsvButton
            fileName={`${picture.key.replace(/\W+/g, '-')}.csv`}
            rows={THIRD_OCTAVES.map(({ centerHz }, i) => ({
              centerHz,
              ...Object.fromEntries(picture.lines.map(({ name, values }) => [name, values[i]])),
            }))}
          />
        </>
      )}
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem', mt: 1, maxWidth: '86ch' }}>
        “At one loudness”: with the make-up gain that brings the chain’s performance to the loudest
        chain’s. Differences hold while the gain was not touched between the two recordings.
      </Typography>
    </Box>
  );
}
