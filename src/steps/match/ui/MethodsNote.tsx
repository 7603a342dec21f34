'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { disagreements, WORTH_SAYING_DB } from '@/core/matching/disagreement';
import type { Clip, ClipSet } from '@/steps/match/schema';
import { DataTable } from '@/ui/DataTable';
import { signed } from '@/ui/format';
import { token } from '@/ui/tokens';
import { ClipAudition } from './ClipAudition';

const BY = { loudness: 'programme loudness', rms: 'average power (RMS)' };

/** Where another method of matching would have made it otherwise, and why. */
export function MethodsNote({
  clipSet,
  clips,
  nameOf,
  mayHear,
  urlOf,
}: {
  clipSet: ClipSet;
  clips: Clip[];
  nameOf: (chainId: string) => string;
  /** Whether clips may be heard by name now. */
  mayHear: boolean;
  urlOf: (chainId: string) => string;
}) {
  const [heard, setHeard] = useState<string | null>(null);
  const reference = clips.findIndex(({ chainId }) => chainId === clipSet.referenceChainId);
  if (reference < 0) return null;
  const found = disagreements(
    clipSet.method,
    clips.map((clip) => ({
      name: nameOf(clip.chainId),
      gainDb: clip.gainDb - (clip.details.onPurposeDb ?? 0),
      beforeLufs: clip.beforeLufs,
      beforeRmsDbfs: clip.beforeRmsDbfs,
      bands: clip.spectra?.third.against ?? [],
    })),
    reference,
  );
  const chosen = found.find(({ name, by }) => heard === `${name} ${by}`);
  const chainId = clips.find((clip) => nameOf(clip.chainId) === chosen?.name)?.chainId;
  const other = chosen && chainId ? { ...chosen, chainId } : null;
  return (
    <Box sx={{ mt: 3 }}>
      <Typography variant="h2">Do the methods agree?</Typography>
      {found.length === 0 ? (
        <Typography sx={{ fontSize: '0.875rem', mt: 0.5 }}>
          Loudness and RMS would set these clips alike within {WORTH_SAYING_DB} dB.
        </Typography>
      ) : (
        <DataTable
          label="Where the methods disagree"
          sx={{ mt: 0.5 }}
          rows={found}
          keyOf={({ name, by }) => `${name} ${by}`}
          columns={[
            { label: 'Clip', cell: ({ name }) => name },
            { label: 'Measured by', cell: ({ by }) => BY[by] },
            {
              label: 'Against the reference',
              cell: ({ differenceDb }) => signed(differenceDb, 1, 'dB'),
              right: true,
            },
            { label: 'Why', cell: ({ reason }) => reason, sx: { color: token('soft') } },
            {
              label: '',
              right: true,
              cell: ({ name, by }) => (
                <Button
                  size="small"
                  disabled={!mayHear}
                  aria-label={`Hear both versions of ${name} by ${BY[by]}`}
                  onClick={() => setHeard(heard === `${name} ${by}` ? null : `${name} ${by}`)}
                >
                  Hear both
                </Button>
              ),
            },
          ]}
        />
      )}
      {other && (
        <Box sx={{ mt: 1 }}>
          <ClipAudition
            key={heard}
            clips={[
              { name: nameOf(clipSet.referenceChainId), url: urlOf(clipSet.referenceChainId) },
              { name: `${other.name}, as matched`, url: urlOf(other.chainId) },
              {
                name: `${other.name}, by ${BY[other.by]}`,
                url: urlOf(other.chainId),
                trimDb: -other.differenceDb,
              },
            ]}
          />
        </Box>
      )}
    </Box>
  );
}
