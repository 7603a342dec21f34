'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import type { AlignmentChange, TakeAlignment } from '@/steps/match/schema';
import type { ShownTake } from '@/steps/takes/schema';
import { clock, signed } from '@/ui/format';
import { DecimalField } from '@/ui/DecimalField';
import { token } from '@/ui/tokens';
import { usePeaks } from './usePeaks';

const WAYS = {
  performance: 'by the waveform (same performance)',
  onset: 'by onsets (repeated performance)',
  hand: 'by hand',
} as const;
const NUDGES_MS = [-100, -10, -1, 1, 10, 100] as const;
const MARKER_PX = 360;
const MARKER_HEIGHT = 42;
/** What is drawn around the marker, s. */
const AROUND_S = 4;

/** A stretch of a take around its marker, as one filled shape. */
function MarkerDrawing({ peaks, perS, atS }: { peaks: number[]; perS: number; atS: number }) {
  const from = Math.round((atS - AROUND_S / 2) * perS);
  const count = Math.round(AROUND_S * perS);
  const step = MARKER_PX / count;
  const top = peaks.slice(Math.max(0, from), from + count).reduce((a, b) => Math.max(a, b), 1);
  const edge = (side: -1 | 1) =>
    Array.from({ length: count }, (_, i) => {
      const half = (MARKER_HEIGHT * Math.max(0.01 * top, peaks[from + i] ?? 0)) / top / 2;
      return `${i * step},${MARKER_HEIGHT / 2 + side * half}`;
    });
  return (
    <svg
      width={MARKER_PX}
      height={MARKER_HEIGHT}
      role="img"
      aria-label={`Marker at ${atS.toFixed(2)} s`}
    >
      <polygon points={[...edge(-1), ...edge(1).reverse()].join(' ')} fill={token('wave')} />
      <line
        x1={MARKER_PX / 2}
        x2={MARKER_PX / 2}
        y1={0}
        y2={MARKER_HEIGHT}
        stroke={token('pen')}
        strokeWidth={2}
      />
    </svg>
  );
}

function HandPlacing({
  comparisonId,
  name,
  take,
  passageFromS,
  delayMs,
  perS,
  takesUrl,
  onDelay,
  takeId,
}: {
  comparisonId: string;
  name: string;
  takeId: string;
  take: ShownTake | undefined;
  passageFromS: number;
  delayMs: number;
  perS: number;
  takesUrl: string;
  onDelay: (delayMs: number) => void;
}) {
  const audio = useRef<HTMLAudioElement | null>(null);
  const [sounding, setSounding] = useState(false);
  const peaks = usePeaks(comparisonId, takeId);
  useEffect(() => () => audio.current?.pause(), []);
  const atS = passageFromS + delayMs / 1000;
  const proposedS = take?.referenceAlignment?.onsetDelayS ?? null;
  const hear = () => {
    audio.current ??= new Audio(`${takesUrl}/${takeId}/audio`);
    const { current } = audio;
    if (sounding) {
      current.pause();
      setSounding(false);
      return;
    }
    current.currentTime = Math.max(0, atS);
    current.onended = () => setSounding(false);
    setSounding(true);
    void current.play().catch(() => setSounding(false));
  };
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'center', mt: 1 }}>
      <DecimalField
        label="Late by, ms"
        size="small"
        value={delayMs}
        least={-60_000}
        most={60_000}
        onKeep={(typed) => onDelay(typed ?? 0)}
        sx={{ width: 130 }}
      />
      {NUDGES_MS.map((ms) => (
        <Button
          key={ms}
          size="small"
          aria-label={`${name} ${Math.abs(ms)} ms ${ms < 0 ? 'earlier' : 'later'}`}
          onClick={() => onDelay(delayMs + ms)}
          sx={{ minWidth: 0, px: 0.75 }}
        >
          {signed(ms, 0, '').trim()}
        </Button>
      ))}
      <Button size="small" onClick={hear}>
        {sounding ? 'Stop' : `Hear from ${clock(Math.max(0, atS))}`}
      </Button>
      {proposedS !== null && (
        <Button size="small" onClick={() => onDelay(Math.round(1000 * proposedS))}>
          Propose {signed(1000 * proposedS, 0, 'ms')}
        </Button>
      )}
      {peaks && <MarkerDrawing peaks={peaks} perS={perS} atS={atS} />}
    </Box>
  );
}

/** How each take is laid in time; the default fits takes of one performance. */
export function AlignmentChoices({
  comparisonId,
  passage,
  alignments,
  takes,
  referenceChainId,
  nameOf,
  perS,
  takesUrl,
  onChange,
}: {
  comparisonId: string;
  passage: { id: string; fromS: number };
  alignments: TakeAlignment[];
  takes: ShownTake[];
  referenceChainId: string;
  nameOf: (chainId: string) => string;
  perS: number;
  takesUrl: string;
  onChange: (change: AlignmentChange) => void;
}) {
  return (
    <Box component="details" sx={{ mb: 2 }}>
      <Box component="summary" sx={{ cursor: 'pointer', color: token('pen') }}>
        How takes are laid in time
      </Box>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', my: 1, maxWidth: '70ch' }}>
        Takes of one performance are aligned to a fraction of a sample by their waveforms, and a
        drift of clocks is taken out. Repeated performances cannot be: their onsets are laid on each
        other (about 5 ms), or you set a marker by ear where the passage begins in that take.
      </Typography>
      {alignments
        .filter(({ chainId }) => chainId !== referenceChainId)
        .map(({ takeId, chainId, alignment, delayMs }) => {
          const change = { passageId: passage.id, takeId };
          return (
            <Box key={`${takeId} ${chainId}`} sx={{ mb: 1.5 }}>
              <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'center' }}>
                <Box sx={{ width: 220 }}>{nameOf(chainId)}</Box>
                <Select
                  value={alignment}
                  onChange={({ target }) =>
                    onChange({ ...change, alignment: target.value, delayMs })
                  }
                  slotProps={{ input: { 'aria-label': `Alignment of ${nameOf(chainId)}` } }}
                  sx={{ minWidth: 290, fontSize: '0.875rem' }}
                >
                  {Object.entries(WAYS).map(([way, text]) => (
                    <MenuItem key={way} value={way}>
                      {text}
                    </MenuItem>
                  ))}
                </Select>
              </Box>
              {alignment === 'hand' && (
                <HandPlacing
                  comparisonId={comparisonId}
                  name={nameOf(chainId)}
                  take={takes.find(({ id }) => id === takeId)}
                  passageFromS={passage.fromS}
                  delayMs={delayMs}
                  perS={perS}
                  takesUrl={takesUrl}
                  onDelay={(ms) =>
                    onChange({
                      ...change,
                      alignment: 'hand',
                      delayMs: Math.max(-5000, Math.min(5000, ms)),
                    })
                  }
                  takeId={takeId}
                />
              )}
            </Box>
          );
        })}
    </Box>
  );
}
