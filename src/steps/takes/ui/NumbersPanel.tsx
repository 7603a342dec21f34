'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import type { ChainNumbers } from '@/core/checks/programme-numbers';
import { programmeLabel, programmeStep } from '@/core/checks/programme';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { CsvButton } from '@/ui/CsvButton';
import { level, signed } from '@/ui/format';
import { token } from '@/ui/tokens';
import type { BandLine } from './BandChart';
import { WideTable } from '@/ui/WideTable';

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

/** Every take of every step in plain numbers, folded: what the table above is made of. */
function StepTable({ numbers }: { numbers: ChainNumbers[] }) {
  const rows = numbers.flatMap(({ chain, makeUpDb, steps }) =>
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
      <WideTable label="Every step">
        <Table aria-label="Every step in numbers">
          <TableHead>
            <TableRow>
              <TableCell>Chain</TableCell>
              <TableCell>Step</TableCell>
              <TableCell align="right">Level, dBFS</TableCell>
              <TableCell align="right">At one loudness</TableCell>
              <TableCell align="right">dBFS(A)</TableCell>
              <TableCell align="right">100 Hz against 1 kHz, dB</TableCell>
              <TableCell align="right">10 kHz against 1 kHz, dB</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map((row, i) => (
              <TableRow key={`${row.chain} ${row.step} ${i}`}>
                <TableCell>{row.chain}</TableCell>
                <TableCell>{row.step}</TableCell>
                <TableCell align="right">{level(row.levelDbfs, 1)}</TableCell>
                <TableCell align="right">{level(row.atOneLoudness, 1)}</TableCell>
                <TableCell align="right">{level(row.aWeightedDbfs, 1)}</TableCell>
                <TableCell align="right">{signed(row.low100HzDb, 1, '')}</TableCell>
                <TableCell align="right">{signed(row.high10kHzDb, 1, '')}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </WideTable>
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
  const has = (of: (n: ChainNumbers) => unknown) => numbers.some((n) => of(n) != null);
  /** A column for each detail that any chain has. */
  const detailed = (
    what: string,
    of: (n: ChainNumbers) => { detail: string; db: number | null }[],
  ) =>
    [...new Set(numbers.flatMap((n) => of(n).map(({ detail }) => detail)))].map(
      (detail): [string, (n: ChainNumbers) => string, boolean] => [
        detail === '' ? `${what}, dB` : `${what}, ${detail}, dB`,
        (n) => signed(of(n).find((one) => one.detail === detail)?.db, 1, ''),
        true,
      ],
    );
  const columns: [string, (n: ChainNumbers) => string, boolean][] = [
    ['Make-up, dB', (n) => signed(n.makeUpDb, 1, ''), has((n) => n.makeUpDb)],
    ['Room, dBFS(A)', (n) => level(n.room?.aWeightedDb, 1), has((n) => n.room)],
    ['Room at one loudness', (n) => level(n.room?.matchedADb, 1), has((n) => n.room?.matchedADb)],
    ['Flat, at one loudness', (n) => level(n.room?.matchedFlatDb, 1), has((n) => n.room)],
    ['Chain alone, at one', (n) => level(n.resistor?.matchedADb, 1), has((n) => n.resistor)],
    ...angles.map((angle): [string, (n: ChainNumbers) => string, boolean] => [
      `At ${angle}°, dB`,
      (n) => signed(n.offAxis.find(({ detail }) => detail === angle)?.overallDb, 1, ''),
      true,
    ]),
    ['Low end close, dB', (n) => signed(near(n)?.db, 1, ''), has((n) => near(n)?.db)],
    ['Plosives, dB', (n) => signed(n.plosiveDb, 1, ''), has((n) => n.plosiveDb)],
    ...detailed('Knocks', (n) => n.knocks),
    ...detailed('Wanted to noise', (n) => n.wantedToNoise),
  ];
  const shown = columns.filter(([, , there]) => there);
  return (
    <Box sx={{ mt: 4 }}>
      <Typography variant="h2">{headingOf(numbers)}</Typography>
      <WideTable label="Programme numbers">
        <Table aria-label="Numbers of the test programme" sx={{ mt: 1 }}>
          <TableHead>
            <TableRow>
              <TableCell>Chain</TableCell>
              {shown.map(([label]) => (
                <TableCell key={label} align="right">
                  {label}
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {numbers.map((n) => (
              <TableRow key={n.chain}>
                <TableCell>{n.chain}</TableCell>
                {shown.map(([label, text]) => (
                  <TableCell key={label} align="right">
                    {text(n).trim()}
                  </TableCell>
                ))}
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </WideTable>
      <CsvButton
        fileName="test-programme.csv"
        rows={numbers.map((n) => ({
          chain: n.chain,
          ...Object.fromEntries(shown.map(([label, text]) => [label, text(n).trim()])),
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
