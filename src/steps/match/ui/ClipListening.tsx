'use client';

import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { Random } from '@/core/signal/random';
import type { ClipNote } from '@/steps/match/schema';
import { token } from '@/ui/tokens';
import { ClipAudition } from './ClipAudition';
import { NotesPanel } from './NotesPanel';

interface HeardClip {
  chainId: string;
  name: string;
  url: string;
}

/** One of the orders that clips can stand in, drawn anew. */
const drawn = (count: number) => {
  const [seed = 0] = crypto.getRandomValues(new Uint32Array(1));
  return new Random(seed).shuffled(Array.from({ length: count }, (_, i) => i));
};

/**
 * The engineer listens and notes, by name or with the names put away. The names are put away on this screen alone,
 * which is enough for honest notes and never counts as an answer.
 */
export function ClipListening({
  ids,
  clips,
  notes,
  lookerId,
}: {
  ids: { id: string; setId: string };
  clips: HeardClip[];
  notes: ClipNote[];
  lookerId: string;
}) {
  const [order, setOrder] = useState<number[] | null>(null);
  // Other clips than those that were put in order are heard by name again.
  const hidden = order?.length === clips.length ? order : null;
  const heard = hidden ? hidden.map((of, i) => ({ ...clips[of]!, name: `clip ${i + 1}` })) : clips;
  return (
    <Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 1.5, mb: 1 }}>
        <FormControlLabel
          label="Hide the names"
          control={
            <Switch
              checked={hidden !== null}
              onChange={(_, hide) => setOrder(hide ? drawn(clips.length) : null)}
            />
          }
        />
        {hidden && (
          <Typography sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
            In an order drawn anew; notes say that no name was seen, and stand here with their names
            when you show them again.
          </Typography>
        )}
      </Box>
      <ClipAudition
        key={hidden ? hidden.join() : 'named'}
        clips={heard}
        foot={({ player, state }) => (
          <NotesPanel
            ids={ids}
            clips={heard}
            namesSeen={hidden === null}
            notes={notes}
            lookerId={lookerId}
            player={player}
            state={state}
          />
        )}
      />
    </Box>
  );
}
