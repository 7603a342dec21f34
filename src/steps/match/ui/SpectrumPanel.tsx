'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { RESOLUTIONS, type Resolution } from '@/core/spectrum/pictures';
import type { Clip, ClipSet } from '@/steps/match/schema';
import { CsvButton } from '@/ui/CsvButton';
import { token } from '@/ui/tokens';

const SpectrumChart = dynamic(() => import('./SpectrumChart'), { ssr: false });

/** From here on a difference is believed. */
const SURE = 0.8;

const shown = (db: number) => `${db < 0 ? '−' : '+'}${Math.abs(db).toFixed(1)} dB`;

/** What a chain does to the reference's sound; for the engineer alone, never for a panel. */
export function SpectrumPanel({
  clipSet,
  clips,
  nameOf,
  noiseOf,
}: {
  clipSet: ClipSet;
  clips: Clip[];
  nameOf: (chainId: string) => string;
  /** Noise floor of a chain by third as recorded, when it was. */
  noiseOf: (chainId: string) => readonly (number | null)[] | null;
}) {
  const others = clips.filter(
    ({ chainId, pictures }) => chainId !== clipSet.referenceChainId && pictures,
  );
  const reference = clips.find(({ chainId }) => chainId === clipSet.referenceChainId);
  const [chosen, setChosen] = useState('');
  const [resolution, setResolution] = useState<Resolution>('third');
  const clip = others.find(({ chainId }) => chainId === chosen) ?? others[0];
  const picture = clip?.pictures?.[resolution];
  const base = reference?.pictures?.[resolution];
  // What was recorded in silence, at the gain of this clip.
  const floor = clip && resolution === 'third' ? noiseOf(clip.chainId) : null;
  const noise = floor?.map((db) => (db === null || !clip ? null : db + clip.gainDb));
  const rows = (picture?.against ?? []).map((band, i) => ({
    ...band,
    levelDb: picture?.levelsDb[i] ?? null,
    referenceDb: base?.levelsDb[i] ?? null,
    noiseDb: noise?.[i] ?? null,
  }));
  if (!clip || !picture || !reference) return null;
  const [name, refName] = [nameOf(clip.chainId), nameOf(reference.chainId)];
  const believed = rows.flatMap(({ centerHz, differenceDb, coherence }) =>
    differenceDb !== null && coherence >= SURE ? [{ centerHz, differenceDb }] : [],
  );
  const largest = believed.reduce<(typeof believed)[number] | null>(
    (most, band) =>
      most && Math.abs(most.differenceDb) >= Math.abs(band.differenceDb) ? most : band,
    null,
  );
  return (
    <Box sx={{ mt: 4 }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'end', mb: 1 }}>
        <Typography variant="h2" sx={{ flex: '1 1 300px' }}>
          {largest
            ? `${name} against ${refName}: ${shown(largest.differenceDb)} at ${largest.centerHz} Hz`
            : `${name} against ${refName}: hardly the same sound in any band`}
        </Typography>
        <TextField
          select
          label="Spectrum of"
          value={clip.chainId}
          onChange={({ target }) => setChosen(target.value)}
          sx={{ width: 220 }}
        >
          {others.map(({ chainId }) => (
            <MenuItem key={chainId} value={chainId}>
              {nameOf(chainId)}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Bands"
          value={resolution}
          onChange={({ target }) => setResolution(target.value as Resolution)}
          sx={{ width: 150 }}
        >
          {(Object.keys(RESOLUTIONS) as Resolution[]).map((one) => (
            <MenuItem key={one} value={one}>
              {one === 'third' ? '1/3 octave' : '1/6 octave'}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <SpectrumChart
        rows={rows}
        name={name}
        referenceName={refName}
        sure={SURE}
        noise={noise !== undefined}
      />
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem', maxWidth: '86ch' }}>
        Above: what turns {refName} into {name}, matched in level; hollow points have a coherence
        under {SURE} and are not to be believed. Below: both spectra
        {noise ? ', and the noise of the silent room at the same gain' : ''}. Keep these from a
        panel that has not answered.
      </Typography>
      <CsvButton fileName="spectrum.csv" rows={rows} />
    </Box>
  );
}
