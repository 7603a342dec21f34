'use client';

import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { PATTERN_FIELDS, patternFault, readName } from '@/core/checks/naming';
import { programmeLabel } from '@/core/checks/programme';
import type { Chain } from '@/steps/chains/schema';
import type { Source } from '@/steps/comparisons/schema';
import { token } from '@/ui/tokens';

/** How file names are read, with what that makes of names that are here. */
export function PatternField({
  pattern,
  onChange,
  chains,
  sources,
  names,
}: {
  pattern: string;
  onChange: (pattern: string) => void;
  chains: Chain[];
  sources: Source[];
  names: string[];
}) {
  const fault = patternFault(pattern);
  const examples = names.length > 0 ? names : ['Kern 40_2_Cello.wav'];
  return (
    <Box component="details" sx={{ mb: 2 }}>
      <Box component="summary" sx={{ cursor: 'pointer', color: token('pen') }}>
        How file names are read
      </Box>
      <TextField
        label="Naming pattern"
        placeholder="{chain}_{take}_{source}"
        value={pattern}
        error={fault !== null}
        helperText={
          fault ??
          `Fields: ${PATTERN_FIELDS.map((field) => `{${field}}`).join(', ')}. Empty: by words.`
        }
        onChange={({ target }) => onChange(target.value)}
        sx={{ mt: 1.5, width: '100%', maxWidth: 520 }}
      />
      <Box component="ul" sx={{ m: 0, mt: 1, pl: 2.5, fontSize: '0.875rem' }}>
        {examples.map((name, i) => {
          const read = readName(
            name,
            pattern,
            chains.map((chain) => chain.name),
            sources.map((source) => source.name),
          );
          const parts = [
            read.chain === null ? 'no chain' : chains[read.chain]!.name,
            programmeLabel(read.programme, read.detail),
            read.take === null ? null : `take ${read.take}`,
            sources.length > 1 ? sources[read.source ?? 0]!.name : null,
          ];
          return (
            <li key={`${i} ${name}`}>
              {name} → {parts.filter(Boolean).join(' · ')}
            </li>
          );
        })}
      </Box>
    </Box>
  );
}
