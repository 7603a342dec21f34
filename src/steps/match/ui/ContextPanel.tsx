'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { NO_PROCESSING, type ProcessSettings } from '@/core/processing/settings';
import { stagesOf } from '@/core/processing/stages';
import type { ToneMatchSettings } from '@/core/spectrum/tone-match';
import { CONTEXT_KINDS, type ContextOrder } from '@/steps/match/schema';
import { DecimalField } from '@/ui/DecimalField';
import { token } from '@/ui/tokens';
import type { ContextChoices } from './context-choices';
import { ProcessFields } from './ProcessFields';
import { ProcessPreview } from './ProcessPreview';

type Kind = ContextOrder['kind'];
const WORDS: Record<Kind, [label: string, hint: string]> = {
  raw: ['raw', 'Nothing but cut, delay, polarity and gain.'],
  alike: [
    'processed alike',
    'The same settings for every chain (default of the two schools): only the chains differ.',
  ],
  tailored: [
    'tailored',
    'Settings for each chain, as one would mix it. Marked as such wherever it is shown: then more than the chain differs.',
  ],
  mix: ['in the mix', 'Behind each clip the same backing track at one balance.'],
  toned: [
    'tone-matched',
    'Each clip with the average spectrum of the reference: what is left is not only EQ.',
  ],
};

function Tailored({
  chains,
  settings,
  urlOf,
  onChange,
}: {
  chains: { id: string; name: string }[];
  settings: Record<string, ProcessSettings>;
  urlOf: (chainId: string) => string | null;
  onChange: (settings: Record<string, ProcessSettings>) => void;
}) {
  const [at, setAt] = useState(chains[0]?.id ?? '');
  const chain = chains.find(({ id }) => id === at) ?? chains[0];
  if (!chain) return null;
  const own = settings[chain.id] ?? NO_PROCESSING;
  const url = urlOf(chain.id);
  return (
    <>
      <TextField
        select
        size="small"
        label="Settings of"
        value={chain.id}
        onChange={({ target }) => setAt(target.value)}
        sx={{ width: 220, mb: 1.5 }}
      >
        {chains.map(({ id, name }) => (
          <MenuItem key={id} value={id}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <ProcessFields
        settings={own}
        onChange={(changed) => onChange({ ...settings, [chain.id]: changed })}
      />
      {url && <ProcessPreview name={chain.name} url={url} stages={stagesOf(own)} />}
    </>
  );
}

function ToneFields({
  settings,
  onChange,
}: {
  settings: ToneMatchSettings;
  onChange: (settings: ToneMatchSettings) => void;
}) {
  const set = (change: Partial<ToneMatchSettings>) => onChange({ ...settings, ...change });
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5 }}>
      <TextField
        select
        size="small"
        label="Phase"
        value={settings.phase}
        onChange={({ target }) => set({ phase: target.value as ToneMatchSettings['phase'] })}
        sx={{ width: 150 }}
      >
        <MenuItem value="minimum">minimum</MenuItem>
        <MenuItem value="linear">linear</MenuItem>
      </TextField>
      <TextField
        select
        size="small"
        label="Smoothed over"
        value={settings.smoothing}
        onChange={({ target }) =>
          set({ smoothing: target.value as ToneMatchSettings['smoothing'] })
        }
        sx={{ width: 150 }}
      >
        <MenuItem value="third">1/3 octave</MenuItem>
        <MenuItem value="sixth">1/6 octave</MenuItem>
      </TextField>
      <DecimalField
        size="small"
        label="At most, dB"
        value={settings.limitDb}
        least={1}
        most={24}
        onKeep={(limitDb) => set({ limitDb: limitDb ?? settings.limitDb })}
        sx={{ width: 120 }}
      />
    </Box>
  );
}

/** In which surroundings clips are made, and with which settings. */
export function ContextPanel({
  chains,
  chosen,
  choices,
  hasBacking,
  urlOf,
  onChosen,
  onChoices,
}: {
  chains: { id: string; name: string }[];
  chosen: readonly Kind[];
  choices: ContextChoices;
  hasBacking: boolean;
  /** Address of a chain's raw clip, when there is one. */
  urlOf: (chainId: string) => string | null;
  onChosen: (kinds: Kind[]) => void;
  onChoices: (choices: ContextChoices) => void;
}) {
  const put = (context: ContextOrder) => onChoices({ ...choices, [context.kind]: context });
  const fields: Record<Kind, () => React.ReactNode> = {
    raw: () => null,
    alike: () => {
      if (choices.alike.kind !== 'alike') return null;
      const { settings } = choices.alike;
      const first = chains.find(({ id }) => urlOf(id) !== null);
      return (
        <>
          <ProcessFields
            settings={settings}
            onChange={(changed) => put({ kind: 'alike', settings: changed })}
          />
          {first && (
            <ProcessPreview
              name={first.name}
              url={urlOf(first.id) ?? ''}
              stages={stagesOf(settings)}
            />
          )}
        </>
      );
    },
    tailored: () =>
      choices.tailored.kind === 'tailored' && (
        <Tailored
          chains={chains}
          settings={choices.tailored.settings}
          urlOf={urlOf}
          onChange={(settings) => put({ kind: 'tailored', settings })}
        />
      ),
    mix: () =>
      choices.mix.kind === 'mix' && (
        <>
          <DecimalField
            size="small"
            label="Backing against clip, dB"
            value={choices.mix.balanceDb}
            least={-40}
            most={20}
            onKeep={(balanceDb) => put({ kind: 'mix', balanceDb: balanceDb ?? 0 })}
            sx={{ width: 200 }}
          />
          {!hasBacking && (
            <Typography sx={{ color: token('ochre'), fontSize: '0.875rem', mt: 0.5 }}>
              There is no backing track yet: drop one at Takes and mark it as such.
            </Typography>
          )}
        </>
      ),
    toned: () =>
      choices.toned.kind === 'toned' && (
        <ToneFields
          settings={choices.toned.settings}
          onChange={(settings) => put({ kind: 'toned', settings })}
        />
      ),
  };
  return (
    <Box component="details" sx={{ mb: 2 }}>
      <Box component="summary" sx={{ cursor: 'pointer', color: token('pen') }}>
        In which contexts: {chosen.map((kind) => WORDS[kind][0]).join(', ')}
      </Box>
      {CONTEXT_KINDS.map((kind) => {
        const on = chosen.includes(kind);
        const [label, hint] = WORDS[kind];
        return (
          <Box key={kind} sx={{ mt: 1 }}>
            <FormControlLabel
              label={label}
              control={
                <Checkbox
                  checked={on}
                  disabled={on && chosen.length === 1}
                  onChange={(_, now) =>
                    onChosen(
                      CONTEXT_KINDS.filter((one) => (one === kind ? now : chosen.includes(one))),
                    )
                  }
                />
              }
            />
            <Typography component="span" sx={{ color: token('soft'), fontSize: '0.875rem' }}>
              {hint}
            </Typography>
            {on && <Box sx={{ pl: 4 }}>{fields[kind]()}</Box>}
          </Box>
        );
      })}
    </Box>
  );
}
