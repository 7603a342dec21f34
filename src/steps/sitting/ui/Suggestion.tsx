'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { suggestParts } from '@/core/design/suggest';
import { DOUBTFUL_DB } from '@/core/spectrum/closest';
import { TASKS } from '@/core/tasks';
import type { TaskId } from '@/core/tasks';
import { clipsShown, trialsOfPart } from '@/steps/sitting/account';
import type { PartDraft } from '@/steps/sitting/schema';
import type { ListenableSet } from '@/steps/sitting/service';
import { Note } from '@/ui/Sheet';
import { newPart } from './new-part';

const USUAL_MINUTES = 20;

/** Two chains of a set that may sound alike, by their spectra. */
function doubtful({ closest, chainNames }: ListenableSet): string | null {
  if (!closest || closest.distanceDb >= DOUBTFUL_DB) return null;
  const [a, b] = closest.pair.map((id) => chainNames.find((chain) => chain.id === id)?.name ?? '');
  return `${a} and ${b} differ by only ${closest.distanceDb.toFixed(1)} dB over the spectrum`;
}

/** Parts for this panel and its time; or, where two may sound alike, the question before the question. */
export function Suggestion({
  set,
  listeners,
  parts,
  onParts,
}: {
  set: ListenableSet;
  listeners: number;
  parts: readonly PartDraft[];
  onParts: (parts: PartDraft[]) => void;
}) {
  const [minutes, setMinutes] = useState(USUAL_MINUTES);
  const doubt = doubtful(set);
  const extra = (task: TaskId) => {
    const proposed = newPart(task, set);
    return trialsOfPart(proposed) - proposed.trials;
  };
  const suggested = suggestParts({
    chains: set.chains,
    listeners,
    minutesEach: minutes,
    inDoubt: doubt !== null,
    seconds: {
      triangle: TASKS.triangle.seconds(set.clipSeconds, 3),
      pair: TASKS.pair.seconds(set.clipSeconds, 2),
      line: TASKS.line.seconds(set.clipSeconds, clipsShown(newPart('line', set), set.chains)),
      words: TASKS.words.seconds(set.clipSeconds, 1),
    },
    controls: {
      triangle: extra('triangle'),
      pair: extra('pair'),
      line: extra('line'),
      words: extra('words'),
    },
  });
  const part = (task: (typeof suggested)[number]['task'], trials: number): PartDraft => ({
    ...newPart(task, set),
    trials,
    pair: task === 'triangle' && set.closest ? set.closest.pair : null,
  });
  const asksFirst = parts.some(({ task }) => TASKS[task].asksFirst);
  return (
    <>
      {doubt && !asksFirst && (
        <Note kind="caution">
          {doubt}. A liking means little between recordings that nobody can tell apart; ask that
          first.{' '}
          <Button
            size="small"
            onClick={() => onParts([part('triangle', newPart('triangle', set).trials), ...parts])}
          >
            Ask it first
          </Button>
        </Note>
      )}
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', my: 2 }}>
        <TextField
          label="Minutes of each listener"
          type="number"
          size="small"
          value={minutes}
          onChange={({ target }) =>
            setMinutes(Math.min(180, Math.max(1, Math.round(Number(target.value) || 1))))
          }
          sx={{ width: 200 }}
        />
        <Button
          variant="outlined"
          disabled={suggested.length === 0}
          onClick={() => onParts(suggested.map(({ task, trials }) => part(task, trials)))}
        >
          Suggest parts for that time
        </Button>
        {suggested.length === 0 && 'Too short for any part.'}
      </Box>
    </>
  );
}
