'use client';

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import type { z } from 'zod';
import { SURE_COHERENCE } from '@/core/spectrum/quoted';
import type { TakeChoice } from '@/steps/takes/compare';
import { TAKES } from '@/steps/takes/endpoints';
import type { compared } from '@/steps/takes/schema';
import { CsvButton } from '@/ui/CsvButton';
import { signed } from '@/ui/format';
import { NamedListening } from '@/ui/NamedListening';
import { Note } from '@/ui/Sheet';
import { request, RequestError } from '@/ui/request';
import { token } from '@/ui/tokens';
import { useOneSound } from '@/ui/useOneSound';
import { WideTable } from '@/ui/WideTable';
import { leftWords } from './left-words';

const BandChart = dynamic(() => import('./BandChart'), { ssr: false });

type Compared = z.infer<typeof compared>;

const keyOf = (one: TakeChoice, other: TakeChoice) => `${one.id} ${other.id}`;

/** As many curves as can be told apart over one reference. */
const MOST = 5;

function widthWords({ width }: Compared): string {
  if (!width) return '–';
  return `${signed(width.referenceDb, 1, '')} → ${signed(width.otherDb, 1, 'dB')}`;
}

/** One other take against the reference. */
function ComparedRow({
  name,
  found,
  wide,
  playing,
  onPlay,
}: {
  name: string;
  /** A sentence where it could not be compared. */
  found: Compared | string | undefined;
  /** Whether some have two channels. */
  wide: boolean;
  playing: boolean;
  onPlay: () => void;
}) {
  if (typeof found !== 'object') {
    return (
      <TableRow>
        <TableCell>{name}</TableCell>
        <TableCell colSpan={wide ? 6 : 5}>{found ?? 'Being compared …'}</TableCell>
      </TableRow>
    );
  }
  return (
    <TableRow>
      <TableCell sx={{ minWidth: 160 }}>{name}</TableCell>
      <TableCell align="right">{signed(found.levelDb, 1, '')}</TableCell>
      <TableCell align="right">{signed(found.lowTiltDb, 1, '')}</TableCell>
      <TableCell align="right">{signed(found.highTiltDb, 1, '')}</TableCell>
      <TableCell align="right">
        {found.samePerformance ? found.coherence.toFixed(2) : '–'}
        {found.polarityInverted && found.samePerformance ? ', inverted' : ''}
      </TableCell>
      {wide && <TableCell align="right">{widthWords(found)}</TableCell>}
      <TableCell>
        {leftWords(found)}{' '}
        {found.nullDb !== null && (
          <Button size="small" onClick={onPlay}>
            {playing ? 'Stop' : 'Hear what is left'}
          </Button>
        )}
      </TableCell>
    </TableRow>
  );
}

/** Any take or step against any other: level kept, tilt, curve, and what is left when one is taken from the other. */
export function ComparePanel({
  comparisonId,
  choices,
}: {
  comparisonId: string;
  choices: TakeChoice[];
}) {
  const [reference, setReference] = useState<TakeChoice | null>(null);
  const [others, setOthers] = useState<TakeChoice[]>([]);
  /** By both takes; a sentence where it failed. */
  const [found, setFound] = useState<ReadonlyMap<string, Compared | string>>(new Map());
  const sound = useOneSound();
  if (choices.length < 2) return null;
  const leftUrl = (otherId: string) =>
    `/api/comparisons/${comparisonId}/takes/${reference?.id}/residual/${otherId}`;
  /** Asks for what is not known yet. */
  const ask = (one: TakeChoice | null, against: readonly TakeChoice[]) => {
    for (const other of one ? against : []) {
      const key = keyOf(one!, other);
      if (typeof found.get(key) === 'object') continue;
      const told = (what: Compared | string) =>
        setFound((before) => new Map(before).set(key, what));
      request(TAKES.compare, { id: comparisonId, takeId: one!.id, otherId: other.id }).then(
        told,
        (error: unknown) => told(error instanceof RequestError ? error.message : 'Try again.'),
      );
    }
  };
  const shown = others.map((other) => ({
    ...other,
    found: reference ? found.get(keyOf(reference, other)) : undefined,
  }));
  const known = shown.flatMap(({ name, found: one }) =>
    typeof one === 'object' ? [{ name, ...one }] : [],
  );
  const lines = known.map(({ name, bands }) => ({
    name,
    values: bands.map(({ differenceDb }) => differenceDb),
  }));
  const centers = known[0]?.bands.map(({ centerHz }) => centerHz) ?? [];
  const wide = known.some(({ width }) => width !== null);
  const foreign = known.some(({ samePerformance }) => !samePerformance);
  return (
    <Box sx={{ mt: 4 }}>
      <Typography variant="h2">Any two, set against each other</Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, mt: 1.5 }}>
        <Autocomplete
          size="small"
          options={choices}
          value={reference}
          getOptionLabel={({ name }) => name}
          getOptionKey={({ id }) => id}
          isOptionEqualToValue={(a, b) => a.id === b.id}
          onChange={(_, chosen) => {
            sound.stop();
            const kept = others.filter(({ id }) => id !== chosen?.id);
            setReference(chosen);
            setOthers(kept);
            ask(chosen, kept);
          }}
          renderInput={(params) => <TextField {...params} label="This one" />}
          sx={{ flex: '1 1 300px' }}
        />
        <Autocomplete
          multiple
          size="small"
          options={choices.filter(({ id }) => id !== reference?.id)}
          value={others}
          getOptionLabel={({ name }) => name}
          getOptionKey={({ id }) => id}
          isOptionEqualToValue={(a, b) => a.id === b.id}
          getOptionDisabled={() => others.length >= MOST}
          onChange={(_, chosen) => {
            sound.stop();
            const few = chosen.slice(0, MOST);
            setOthers(few);
            ask(reference, few);
          }}
          renderInput={(params) => <TextField {...params} label={`Against it, up to ${MOST}`} />}
          sx={{ flex: '2 1 420px' }}
        />
      </Box>
      {sound.shut && <NamedListening onInsist={sound.insist} />}
      {reference && others.length > 0 && (
        <>
          <WideTable label="Compared takes">
            <Table aria-label={`Against ${reference.name}`} size="small">
              <TableHead>
                <TableRow>
                  <TableCell>Against {reference.name}</TableCell>
                  <TableCell align="right">Level, dB</TableCell>
                  <TableCell align="right">Low end, dB</TableCell>
                  <TableCell align="right">Top end, dB</TableCell>
                  <TableCell align="right">Coherence</TableCell>
                  {wide && <TableCell align="right">Side over middle</TableCell>}
                  <TableCell>Left after subtraction</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {shown.map(({ id, name, found: one }) => (
                  <ComparedRow
                    key={id}
                    name={name}
                    found={one}
                    wide={wide}
                    playing={sound.playing === leftUrl(id)}
                    onPlay={() => sound.toggle(leftUrl(id))}
                  />
                ))}
              </TableBody>
            </Table>
          </WideTable>
          {lines.length > 0 && (
            <Box sx={{ mt: 2 }}>
              <BandChart lines={lines} unit="dB" label={`Against ${reference.name}, level kept`} />
              <CsvButton
                fileName="compared.csv"
                rows={centers.map((centerHz, i) => ({
                  centerHz,
                  ...Object.fromEntries(lines.map(({ name, values }) => [name, values[i] ?? null])),
                }))}
              />
            </Box>
          )}
          {foreign && (
            <Note kind="caution">
              Where performances differ only average spectra are set against each other; the player
              and the place are in them, too.
            </Note>
          )}
          <Typography sx={{ color: token('soft'), fontSize: '0.8125rem', maxWidth: '86ch' }}>
            The middle twenty seconds, as recorded: no level is matched. Low end: 63 to 200 Hz, top
            end: 5 to 12.5 kHz, both against 1 kHz. What is left: the other without this one at its
            best delay and gain, as share of the other’s level. Believe a band from a coherence of{' '}
            {SURE_COHERENCE}.
          </Typography>
        </>
      )}
    </Box>
  );
}
