'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { Fragment, useEffect, useRef, useState } from 'react';
import type { Powers } from '@/core/simulation/panel-power';
import { TASKS } from '@/core/tasks';
import type { SittingAccount, SittingDraft } from '@/steps/sitting/schema';
import type { ListenableSet } from '@/steps/sitting/service';
import { DecimalField } from '@/ui/DecimalField';
import { token } from '@/ui/tokens';
import type { PowerOrder, PowerTold } from './power.worker';

const RUNS = 2000;
const SEED = 1;
const MORE_MINUTES = 40;

function questionOf(
  part: SittingDraft['parts'][number],
  room: SittingDraft['room'],
  sets: readonly ListenableSet[],
  seats: number,
  effect: number,
): PowerOrder['questions'][number] {
  const set = sets.find(({ id }) => id === part.clipSetId) ?? sets[0]!;
  return {
    task: part.task,
    chains: part.pair ? 2 : set.chains,
    seats,
    together: room === 'together',
    trials: part.trials,
    tiesAllowed: part.tiesAllowed,
    controls: part.controls,
    words: part.words,
    effect,
  };
}

const percent = (share: number | undefined) =>
  share === undefined ? '–' : `${Math.round(100 * share)} %`;

/** How many of two thousand simulated panels would find and name a stated difference; now, and with more minutes. */
export function PowerPanel({
  draft,
  account,
  sets,
  smallest,
}: {
  draft: SittingDraft;
  account: SittingAccount;
  sets: readonly ListenableSet[];
  /** The smallest preferred share that the question cares about, of 100. */
  smallest: number | null;
}) {
  const [stated, setStated] = useState<Partial<Record<number, number>>>({});
  const [progress, setProgress] = useState<number | null>(null);
  const [powers, setPowers] = useState<{ plan: string; found: (Powers | null)[] } | null>(null);
  const worker = useRef<Worker | null>(null);
  useEffect(() => () => worker.current?.terminate(), []);
  const more = Math.max(1, Math.floor(MORE_MINUTES / account.minutesEach));
  const parts = draft.parts.flatMap((part, i) => {
    const kind = TASKS[part.task].power?.stated;
    if (!kind) return [];
    const wanted = part.task === 'pair' ? smallest : null;
    return [{ part, i, kind, value: stated[i] ?? wanted ?? kind.value }];
  });
  const questions = parts.flatMap(({ part, kind, value }) =>
    [draft.seats, draft.seats + more].map((seats) =>
      questionOf(part, draft.room, sets, seats, kind.times * value),
    ),
  );
  const plan = JSON.stringify(questions);
  const current = powers?.plan === plan ? powers.found : null;
  const sensible = questions.every(
    ({ seats, trials }) => Number.isInteger(seats) && Number.isInteger(trials) && trials > 0,
  );
  const run = () => {
    worker.current?.terminate();
    const made = new Worker(new URL('./power.worker.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    setProgress(0);
    made.addEventListener('message', ({ data }: MessageEvent<PowerTold>) => {
      if ('progress' in data) setProgress(data.progress);
      else {
        setPowers({ plan, found: data.powers });
        setProgress(null);
        made.terminate();
      }
    });
    made.addEventListener('error', () => setProgress(null));
    const order: PowerOrder = { questions, runs: RUNS, seed: SEED };
    made.postMessage(order);
  };
  const cancel = () => {
    worker.current?.terminate();
    setProgress(null);
  };
  if (parts.length === 0) return null;
  return (
    <Box component="section" aria-label="Simulated panels" sx={{ my: 3, maxWidth: 900 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, mb: 0.5 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Would it be found?
        </Typography>
        {progress !== null && (
          <Button size="small" onClick={cancel}>
            Cancel
          </Button>
        )}
        <Button
          size="small"
          variant="outlined"
          disabled={progress !== null || !sensible}
          onClick={run}
        >
          Try on {RUNS} simulated panels
        </Button>
      </Box>
      {progress !== null && (
        <LinearProgress
          variant="determinate"
          value={100 * progress}
          aria-label="Simulated panels"
          sx={{ mb: 1 }}
        />
      )}
      <Table size="small" aria-label="Chance to find a difference">
        <TableHead>
          <TableRow>
            <TableCell>Part</TableCell>
            <TableCell>If in truth one chain is</TableCell>
            <TableCell align="right">{draft.seats} listeners find it</TableCell>
            <TableCell align="right">and name it</TableCell>
            <TableCell align="right">{draft.seats + more} find it</TableCell>
            <TableCell align="right">and name it</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {parts.map(({ part, i, kind, value }, row) => (
            <TableRow key={i}>
              <TableCell>{TASKS[part.task].name}</TableCell>
              <TableCell>
                {kind.label}{' '}
                <DecimalField
                  label=""
                  name={`Difference of part ${i + 1}`}
                  size="small"
                  variant="standard"
                  value={value}
                  least={kind.least}
                  most={kind.most}
                  onKeep={(stood) => setStated({ ...stated, [i]: stood ?? value })}
                  sx={{ width: 64 }}
                />{' '}
                {kind.unit}
              </TableCell>
              {[current?.[2 * row], current?.[2 * row + 1]].map((powers, column) => (
                <Fragment key={column}>
                  <TableCell align="right">{percent(powers?.found)}</TableCell>
                  <TableCell align="right">{percent(powers?.named)}</TableCell>
                </Fragment>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Typography sx={{ mt: 1, color: token('soft'), fontSize: '0.875rem', maxWidth: '86ch' }}>
        Simulated listeners who differ from each other answer in orders like those of the sitting,
        and each panel is read by the analysis that is sealed with the plan. Found: the part’s
        headline claims something. Named: it names what is so, the best recording, the pair, the
        word. 80 % is the usual wish; the error of these figures is at most 1.1 points (standard
        error). The last columns are {MORE_MINUTES} more minutes of the panel. Of parts beside the
        primary one it is the most that can be hoped for, since they are corrected for each other.
      </Typography>
    </Box>
  );
}
