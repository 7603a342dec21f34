'use client';

import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import { DecimalField } from '@/ui/DecimalField';
import { type EqBand, MILD_PROCESSING, type ProcessSettings } from '@/core/processing/settings';

const SHAPES: Record<EqBand['shape'], string> = {
  bell: 'bell',
  lowshelf: 'low shelf',
  highshelf: 'high shelf',
};

function NumberField({
  label,
  value,
  least,
  most,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  onChange: (value: number) => void;
}) {
  return (
    <DecimalField
      label={label}
      size="small"
      value={value}
      least={least}
      most={most}
      onKeep={(typed) => onChange(typed ?? value)}
      sx={{ width: 118 }}
    />
  );
}

function Line({
  label,
  on,
  onToggle,
  children,
}: {
  label: string;
  on: boolean;
  onToggle: (on: boolean) => void;
  children: React.ReactNode;
}) {
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'center', mb: 1 }}>
      <FormControlLabel
        label={label}
        control={<Switch size="small" checked={on} onChange={(_, now) => onToggle(now)} />}
        sx={{ width: 138, mr: 0 }}
      />
      {on && children}
    </Box>
  );
}

/** High-pass, four bands, compressor, de-esser: what a processed clip goes through, in this order. */
export function ProcessFields({
  settings,
  onChange,
}: {
  settings: ProcessSettings;
  onChange: (settings: ProcessSettings) => void;
}) {
  const set = (change: Partial<ProcessSettings>) => onChange({ ...settings, ...change });
  const { highPassHz, eq, compressor, deEsser } = settings;
  const band = (i: number, change: Partial<EqBand>) =>
    set({ eq: eq.map((one, at) => (at === i ? { ...one, ...change } : one)) });
  return (
    <Box>
      <Line
        label="High-pass"
        on={highPassHz !== null}
        onToggle={(on) => set({ highPassHz: on ? MILD_PROCESSING.highPassHz : null })}
      >
        <NumberField
          label="corner, Hz"
          value={highPassHz ?? 80}
          least={10}
          most={2000}
          onChange={(hz) => set({ highPassHz: hz })}
        />
      </Line>
      <Line
        label="Equaliser"
        on={eq.length > 0}
        onToggle={(on) => set({ eq: on ? MILD_PROCESSING.eq : [] })}
      >
        {eq.map(({ shape, hz, q, db }, i) => (
          <Box key={i} sx={{ display: 'flex', gap: 0.5 }}>
            <TextField
              select
              size="small"
              label={`band ${i + 1}`}
              value={shape}
              onChange={({ target }) => band(i, { shape: target.value as EqBand['shape'] })}
              sx={{ width: 116 }}
            >
              {Object.entries(SHAPES).map(([key, text]) => (
                <MenuItem key={key} value={key}>
                  {text}
                </MenuItem>
              ))}
            </TextField>
            <NumberField
              label="Hz"
              value={hz}
              least={20}
              most={20_000}
              onChange={(value) => band(i, { hz: value })}
            />
            <NumberField
              label="Q"
              value={q}
              least={0.1}
              most={20}
              onChange={(value) => band(i, { q: value })}
            />
            <NumberField
              label="dB"
              value={db}
              least={-24}
              most={24}
              onChange={(value) => band(i, { db: value })}
            />
          </Box>
        ))}
      </Line>
      <Line
        label="Compressor"
        on={compressor !== null}
        onToggle={(on) => set({ compressor: on ? MILD_PROCESSING.compressor : null })}
      >
        {compressor && (
          <>
            <NumberField
              label="over mean, dB"
              value={compressor.thresholdDb}
              least={-40}
              most={40}
              onChange={(thresholdDb) => set({ compressor: { ...compressor, thresholdDb } })}
            />
            <NumberField
              label="ratio, : 1"
              value={compressor.ratio}
              least={1}
              most={50}
              onChange={(ratio) => set({ compressor: { ...compressor, ratio } })}
            />
            <NumberField
              label="knee, dB"
              value={compressor.kneeDb}
              least={0}
              most={40}
              onChange={(kneeDb) => set({ compressor: { ...compressor, kneeDb } })}
            />
            <NumberField
              label="attack, ms"
              value={compressor.attackMs}
              least={0.1}
              most={500}
              onChange={(attackMs) => set({ compressor: { ...compressor, attackMs } })}
            />
            <NumberField
              label="release, ms"
              value={compressor.releaseMs}
              least={1}
              most={5000}
              onChange={(releaseMs) => set({ compressor: { ...compressor, releaseMs } })}
            />
          </>
        )}
      </Line>
      <Line
        label="De-esser"
        on={deEsser !== null}
        onToggle={(on) => set({ deEsser: on ? MILD_PROCESSING.deEsser : null })}
      >
        {deEsser && (
          <>
            <NumberField
              label="from, Hz"
              value={deEsser.fromHz}
              least={1000}
              most={16_000}
              onChange={(fromHz) => set({ deEsser: { ...deEsser, fromHz } })}
            />
            <NumberField
              label="over mean, dB"
              value={deEsser.thresholdDb}
              least={-60}
              most={20}
              onChange={(thresholdDb) => set({ deEsser: { ...deEsser, thresholdDb } })}
            />
            <NumberField
              label="at most, dB"
              value={deEsser.mostDb}
              least={0}
              most={24}
              onChange={(mostDb) => set({ deEsser: { ...deEsser, mostDb } })}
            />
          </>
        )}
      </Line>
    </Box>
  );
}
