'use client';

import Box from '@mui/material/Box';
import Slider from '@mui/material/Slider';
import { useColorScheme } from '@mui/material/styles';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import WaveSurfer from 'wavesurfer.js';
import RegionsPlugin, { type Region } from 'wavesurfer.js/dist/plugins/regions.esm.js';
import { PASSAGE_S } from '@/steps/comparisons/schema';
import { clock } from '@/ui/format';
import { PAPERS, token } from '@/ui/tokens';

const HEIGHT = 112;
/** A drawing of hours cannot be stretched as far as one of seconds. */
const MOST_WIDTH_PX = 200_000;
const NUDGE_S = 0.1;
const FINE_NUDGE_S = 0.01;
/** Nudges that follow each other are kept as one. */
const SETTLED_MS = 400;

/** The reference take as a drawing on paper, with the passage on it to drag. */
export default function Waveform({
  peaks,
  durationS,
  passage,
  onPassage,
}: {
  /** 0 … 255 per slot. */
  peaks: readonly number[];
  durationS: number;
  passage: readonly [number, number];
  onPassage: (fromS: number, toS: number) => void;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const surfer = useRef<WaveSurfer | null>(null);
  const region = useRef<Region | null>(null);
  const tell = useRef(onPassage);
  /** Where nudges have moved the passage to, until it is drawn from outside. */
  const nudged = useRef<{
    passage: [number, number];
    /** Runs until it is told. */
    timer: ReturnType<typeof setTimeout> | null;
  } | null>(null);
  const [zoom, setZoom] = useState(0);
  const { mode, systemMode } = useColorScheme();
  const paper = (mode === 'system' ? systemMode : mode) === 'dark' ? PAPERS.dark : PAPERS.light;
  useEffect(() => {
    tell.current = onPassage;
  });
  useEffect(() => {
    if (!holder.current) return;
    const regions = RegionsPlugin.create();
    const largest = peaks.reduce((most, peak) => Math.max(most, peak), 1);
    const made = WaveSurfer.create({
      container: holder.current,
      height: HEIGHT,
      peaks: [peaks.map((peak) => peak / largest)],
      duration: durationS,
      waveColor: paper.wave,
      progressColor: paper.wave,
      cursorWidth: 0,
      interact: false,
      plugins: [regions],
    });
    const add = () => {
      const [start, end] = passage;
      region.current = regions.addRegion({
        start,
        end,
        color: `color-mix(in srgb, ${paper.pen} 16%, transparent)`,
        drag: true,
        resize: true,
        minLength: PASSAGE_S.least,
        maxLength: PASSAGE_S.most,
      });
    };
    made.once('ready', add);
    regions.on('region-updated', ({ start, end }: Region) => tell.current(start, end));
    surfer.current = made;
    return () => {
      region.current = null;
      surfer.current = null;
      made.destroy();
    };
    // The passage is followed below; making the drawing anew would lose the zoom.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [peaks, durationS, paper]);
  const [from, to] = passage;
  useEffect(() => {
    // A nudge that is not told yet goes on from where it is.
    if (nudged.current?.timer) return;
    nudged.current = null;
    region.current?.setOptions({ start: from, end: to });
  }, [from, to]);
  useEffect(
    () => () => {
      if (!nudged.current?.timer) return;
      clearTimeout(nudged.current.timer);
      tell.current(...nudged.current.passage);
    },
    [],
  );
  const nudge = (event: KeyboardEvent) => {
    const towards = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (towards === undefined || event.altKey || event.metaKey) return;
    event.preventDefault();
    const by = towards * (event.ctrlKey ? FINE_NUDGE_S : NUDGE_S);
    const [start, end] = nudged.current?.passage ?? passage;
    const moved: [number, number] = event.shiftKey ? [start, end + by] : [start + by, end + by];
    const long = moved[1] - moved[0];
    if (moved[0] < 0 || moved[1] > durationS || long < PASSAGE_S.least || long > PASSAGE_S.most) {
      return;
    }
    if (nudged.current?.timer) clearTimeout(nudged.current.timer);
    region.current?.setOptions({ start: moved[0], end: moved[1] });
    nudged.current = {
      passage: moved,
      timer: setTimeout(() => {
        nudged.current = { passage: moved, timer: null };
        tell.current(...moved);
      }, SETTLED_MS),
    };
  };
  return (
    <Box>
      <Box
        role="slider"
        tabIndex={0}
        aria-label="Passage on the drawing"
        aria-describedby="nudging"
        aria-valuemin={0}
        aria-valuemax={Math.floor(durationS)}
        aria-valuenow={from}
        aria-valuetext={`from ${from.toFixed(2)} to ${to.toFixed(2)} seconds`}
        onKeyDown={nudge}
        sx={{
          '&:focus-visible': { outline: `2px solid ${token('pen')}`, outlineOffset: 2 },
        }}
      >
        <Box
          ref={holder}
          aria-hidden
          sx={{
            borderBlock: `1px solid ${token('rule')}`,
            bgcolor: token('card'),
            '& ::part(region-handle)': {
              borderColor: `${token('pen')} !important`,
              borderWidth: '2px !important',
            },
          }}
        />
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, color: token('soft'), mt: 0.5 }}>
        <Box sx={{ fontSize: '0.8125rem' }}>0:00</Box>
        <Box sx={{ flex: 1, fontSize: '0.8125rem' }}>
          <Box id="nudging" sx={{ display: { xs: 'none', sm: 'block' } }}>
            Arrow keys move the passage by 0.1 s, with Shift its end, with Ctrl by 0.01 s.
          </Box>
        </Box>
        <Box sx={{ fontSize: '0.8125rem' }}>closer</Box>
        <Slider
          size="small"
          min={0}
          max={Math.min(300, MOST_WIDTH_PX / durationS)}
          value={zoom}
          aria-label="Zoom, pixels per second"
          onChange={(_, value) => {
            setZoom(value);
            surfer.current?.zoom(value);
          }}
          sx={{ width: { xs: 110, sm: 160 } }}
        />
        <Box sx={{ fontSize: '0.8125rem' }}>{clock(durationS)}</Box>
      </Box>
    </Box>
  );
}
