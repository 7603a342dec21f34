'use client';

import ArrowUpwardIcon from '@mui/icons-material/ArrowUpward';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { stageKindOf, type StageSettings } from '@/core/processing/stages';
import { DecimalField } from '@/ui/DecimalField';
import { token } from '@/ui/tokens';

/** One stage with all that can be set of its kind. */
export function StageFields({
  stage,
  number,
  chains,
  onChange,
  onRemove,
  onEarlier,
}: {
  stage: StageSettings;
  /** Counted from 1, in the order in which sound passes. */
  number: number;
  /** Chains whose clip a stage can ask for. */
  chains: readonly { id: string; name: string }[];
  onChange: (stage: StageSettings) => void;
  onRemove: () => void;
  /** Null for the first. */
  onEarlier: (() => void) | null;
}) {
  const kind = stageKindOf(stage);
  const values: Record<string, unknown> = stage;
  // Every key is one of the kind's own, and its value is of the sort that the kind asks for.
  const put = (key: string, value: number | string) => onChange({ ...stage, [key]: value });
  return (
    <Box
      component="li"
      sx={{ borderTop: '1px solid', borderColor: token('rule'), py: 1.25 }}
      aria-label={`${kind.label}, stage ${number}`}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography sx={{ fontWeight: 600, flex: 1 }}>{kind.label}</Typography>
        <IconButton
          size="small"
          aria-label={`Stage ${number} earlier`}
          disabled={!onEarlier}
          onClick={() => onEarlier?.()}
        >
          <ArrowUpwardIcon fontSize="small" />
        </IconButton>
        <IconButton size="small" aria-label={`Remove stage ${number}`} onClick={onRemove}>
          <DeleteOutlineIcon fontSize="small" />
        </IconButton>
      </Box>
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem' }}>{kind.hint}</Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 1 }}>
        {'chainId' in stage && (
          <TextField
            select
            size="small"
            label={kind.towards}
            value={chains.some(({ id }) => id === stage.chainId) ? stage.chainId : ''}
            onChange={({ target }) => put('chainId', target.value)}
            sx={{ width: 220 }}
          >
            {chains.map(({ id, name }) => (
              <MenuItem key={id} value={id}>
                {name}
              </MenuItem>
            ))}
          </TextField>
        )}
        {Object.entries(kind.choices).map(([key, { label, words }]) => (
          <TextField
            key={key}
            select
            size="small"
            label={label}
            value={values[key]}
            onChange={({ target }) => put(key, target.value)}
            sx={{ width: 260 }}
          >
            {Object.entries(words).map(([value, text]) => (
              <MenuItem key={value} value={value}>
                {text}
              </MenuItem>
            ))}
          </TextField>
        ))}
        {Object.entries(kind.figures).map(([key, { label, least, most }]) => (
          <DecimalField
            key={key}
            size="small"
            label={label}
            value={Number(values[key])}
            least={least}
            most={most}
            onKeep={(value) => value !== null && put(key, value)}
            sx={{ width: 140 }}
          />
        ))}
      </Box>
    </Box>
  );
}
