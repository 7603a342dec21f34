'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { RESOLUTIONS, type Resolution } from '@/core/spectrum/clip-spectra';
import { betweenTwo, OVER_NOISE_DB, quotedBand, SURE_COHERENCE } from '@/core/spectrum/quoted';
import type { Clip, ClipSet } from '@/steps/match/schema';
import { CsvButton } from '@/ui/CsvButton';
import { token } from '@/ui/tokens';
import { Subtraction } from './Subtraction';

const SpectrumChart = dynamic(() => import('./SpectrumChart'), { ssr: false });

const shown = (db: number) => `${db < 0 ? '−' : '+'}${Math.abs(db).toFixed(1)} dB`;

/** What a chain does to the reference's sound; for the engineer alone, never for a panel. */
export function SpectrumPanel({
  comparisonId,
  clipSet,
  clips,
  nameOf,
  noiseOf: floorOf,
  mayAskOnlyEq,
  onOnlyEq,
}: {
  comparisonId: string;
  clipSet: ClipSet;
  clips: Clip[];
  nameOf: (chainId: string) => string;
  /** Noise floor of a chain by third as recorded, when it was. */
  noiseOf: (chainId: string) => readonly (number | null)[] | null;
  /** Whether something may be asked of a chain's EQ: a variant is made of another. */
  mayAskOnlyEq: (chainId: string) => boolean;
  /** Asks whether the first differs from the second by more than EQ. */
  onOnlyEq: (chainId: string, asChainId: string) => void;
}) {
  const pictured = clips.filter(({ spectra }) => spectra);
  const [chosen, setChosen] = useState('');
  const [against, setAgainst] = useState(clipSet.referenceChainId);
  const [resolution, setResolution] = useState<Resolution>('third');
  const base = pictured.find(({ chainId }) => chainId === against) ?? pictured.at(0);
  const others = pictured.filter((one) => one !== base);
  const clip = others.find(({ chainId }) => chainId === chosen) ?? others.at(0);
  const picture = clip?.spectra?.[resolution];
  const basePicture = base?.spectra?.[resolution];
  if (!clip || !base || !picture || !basePicture) return null;
  // What was recorded in silence, at the gain of the clip.
  const noiseOf = ({ chainId, gainDb }: Clip) =>
    resolution === 'third'
      ? (floorOf(chainId)?.map((db) => (db === null ? null : db + gainDb)) ?? null)
      : null;
  const [noise, baseNoise] = [noiseOf(clip), noiseOf(base)];
  const between = betweenTwo(
    picture.against,
    base.chainId === clipSet.referenceChainId ? null : basePicture.against,
  );
  const rows = between.map((band, i) => ({
    ...band,
    levelDb: picture.levelsDb[i] ?? null,
    baseDb: basePicture.levelsDb[i] ?? null,
    noiseDb: noise?.[i] ?? null,
    baseNoiseDb: baseNoise?.[i] ?? null,
  }));
  const [name, baseName] = [nameOf(clip.chainId), nameOf(base.chainId)];
  const quoted = quotedBand(rows);
  return (
    <Box sx={{ mt: 4 }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'end', mb: 1 }}>
        <Typography variant="h2" sx={{ flex: '1 1 300px' }}>
          {quoted
            ? `${name} against ${baseName}: ${shown(quoted.differenceDb)} at ${quoted.centerHz} Hz`
            : `${name} against ${baseName}: no band tells enough to be quoted`}
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
          label="Compared with"
          value={base.chainId}
          onChange={({ target }) => setAgainst(target.value)}
          sx={{ width: 220 }}
        >
          {pictured.map(({ chainId }) => (
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
        referenceName={baseName}
        sure={SURE_COHERENCE}
        noise={noise !== null}
      />
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem', maxWidth: '86ch' }}>
        Above: what turns {baseName} into {name}, matched in level; hollow points have a coherence
        under {SURE_COHERENCE} and are not to be believed. Below: both spectra
        {noise ? ', and the noise of the silent room at the same gain' : ''}. The heading quotes the
        largest difference between 80 Hz and 12.5 kHz that is believed
        {noise || baseNoise ? ` and lies ${OVER_NOISE_DB} dB over the noise` : ''}. Keep these from
        a panel that has not answered.
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1 }}>
        <CsvButton fileName="spectrum.csv" rows={rows} />
        {mayAskOnlyEq(clip.chainId) && mayAskOnlyEq(base.chainId) && (
          <Button
            size="small"
            title={`Matches ${name}, ${baseName} and ${name} with the tone of ${baseName}: what is still heard is not EQ.`}
            onClick={() => onOnlyEq(clip.chainId, base.chainId)}
          >
            Is it only EQ?
          </Button>
        )}
        <Subtraction
          key={`${clipSet.id} ${base.chainId} ${clip.chainId}`}
          ids={{ id: comparisonId, setId: clipSet.id }}
          reference={{ chainId: base.chainId, name: baseName }}
          other={{ chainId: clip.chainId, name }}
        />
      </Box>
    </Box>
  );
}
