'use client';

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Radio from '@mui/material/Radio';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { allPairs } from '@/core/design/orders';
import { TASKS } from '@/core/tasks';
import { bestEfficiency } from '@/core/design/balance';
import { percent } from '@/core/statistics/words';
import { evenTrials, NEVER } from '@/core/tasks/even';
import { STEREO_WORDS, TONAL_WORDS } from '@/core/tasks/words/lists';
import type { PartDraft, SittingDraft } from '@/steps/sitting/schema';
import type { ListenableSet } from '@/steps/sitting/service';
import { Note } from '@/ui/Sheet';
import { token } from '@/ui/tokens';

const ALL = 'all';

/** What can go wrong with one part, by field. */
export type PartErrors = Partial<Record<keyof PartDraft, { message?: string } | undefined>>;

function Controls({
  part,
  onChange,
}: {
  part: PartDraft;
  onChange: (change: Partial<PartDraft>) => void;
}) {
  const { task, controls } = part;
  const { self, levelCatch, repeats } = TASKS[task].offers;
  const box = (label: string, checked: boolean, change: (on: boolean) => typeof part.controls) => (
    <FormControlLabel
      control={
        <Checkbox
          size="small"
          checked={checked}
          onChange={(_, on) => onChange({ controls: change(on) })}
        />
      }
      label={label}
    />
  );
  if (!self && !levelCatch && !repeats) return null;
  return (
    <Box
      sx={{ gridColumn: '1 / -1', display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'center' }}
    >
      {self && box(self.label, controls.self, (on) => ({ ...controls, self: on }))}
      {levelCatch &&
        box(levelCatch.label, controls.levelCatch, (on) => ({ ...controls, levelCatch: on }))}
      {repeats?.as === 'slot' &&
        box(repeats.label, controls.repeats > 0, (on) => ({ ...controls, repeats: on ? 1 : 0 }))}
      {repeats?.as === 'trial' && (
        <TextField
          label={repeats.label}
          type="number"
          value={controls.repeats}
          onChange={({ target }) => {
            const asked = Math.round(Number(target.value) || 0);
            onChange({ controls: { ...controls, repeats: Math.min(20, Math.max(0, asked)) } });
          }}
          sx={{ width: 120 }}
        />
      )}
    </Box>
  );
}

/** One part of the plan: what is asked, over which clips, how often. */
export function PartFields({
  part,
  number,
  of,
  sets,
  errors,
  onChange,
  onMove,
  onRemove,
  primary,
  onPrimary,
  room,
}: {
  part: PartDraft;
  number: number;
  of: number;
  sets: readonly ListenableSet[];
  errors: PartErrors | undefined;
  onChange: (change: Partial<PartDraft>) => void;
  onMove: (by: number) => void;
  onRemove: () => void;
  /** Whether this is the part that is judged by itself. */
  primary: boolean;
  onPrimary: () => void;
  room: SittingDraft['room'];
}) {
  const task = TASKS[part.task];
  const set = sets.find(({ id }) => id === part.clipSetId) ?? sets[0]!;
  const round = task.round(part.pair ? 2 : set.chains);
  const { pairLabels } = task;
  const among = part.pair ? 2 : set.chains;
  const { controls } = part;
  const clips = task.clips(set.chains);
  // What names a reference beside one candidate sets each against the same sound.
  const onLine = task.line && clips > 2 && clips < set.chains ? clips : null;
  const even = evenTrials(task, { pairs: allPairs(among).length, chains: among, controls });
  const uneven = room === 'together' && even !== null && part.trials % even !== 0 ? even : null;
  const [first, second] = part.pair ?? [ALL, ALL];
  const pairWith = (at: 0 | 1, id: string) => {
    if (id === ALL) return onChange({ pair: null });
    const others = set.chainNames.filter((chain) => chain.id !== id);
    const other = part.pair?.[1 - at];
    const kept = other && other !== id ? other : others[0]!.id;
    onChange({ pair: at === 0 ? [id, kept] : [kept, id] });
  };
  const chainChoice = (at: 0 | 1, label: string, value: string) => (
    <TextField
      select
      label={label}
      value={value}
      onChange={({ target }) => pairWith(at, target.value)}
      error={Boolean(errors?.pair)}
      helperText={errors?.pair?.message}
    >
      {!task.ofOnePair && <MenuItem value={ALL}>all of the set</MenuItem>}
      {set.chainNames.map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <Box
      component="section"
      aria-label={`Part ${number}`}
      sx={{ borderTop: `1px solid ${token('rule')}`, py: 2 }}
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline', mb: 0.5 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {of > 1 && `Part ${number}: `}
          {task.name}
        </Typography>
        {of > 1 && (
          <>
            <FormControlLabel
              sx={{ alignSelf: 'center' }}
              control={<Radio size="small" checked={primary} onChange={onPrimary} />}
              label="Primary part"
            />
            <Button size="small" disabled={number === 1} onClick={() => onMove(-1)}>
              Earlier
            </Button>
            <Button size="small" disabled={number === of} onClick={() => onMove(1)}>
              Later
            </Button>
            <Button size="small" color="error" onClick={onRemove}>
              Remove part {number}
            </Button>
          </>
        )}
      </Box>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '86ch', mb: 1.5 }}>
        {task.shows} {task.proves}
        {of > 1 &&
          primary &&
          ' The primary part is judged by itself at 5 %; the others are corrected for each other, and claimed only where it shows something.'}
      </Typography>
      {onLine !== null && (
        <Typography sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '86ch', mb: 1.5 }}>
          Of {set.chains} recordings {onLine} lie on each line: a comparison of two is worth at most{' '}
          {percent(bestEfficiency(onLine, set.chains))} of one on lines that hold all.
        </Typography>
      )}
      {uneven !== null && (
        <Note kind="caution">
          In a room all hear one order.{' '}
          {uneven === NEVER
            ? 'With so many recordings, or one twice on the line, not every recording can stand in each place equally often, and a liking for a place would pass for a difference: no verdict will be given. Take fewer recordings, or ask in pairs.'
            : `With this many trials ${task.line ? 'each recording' : 'the right answer'} cannot stand in each place equally often, and a liking for a place would pass for a difference: no verdict will be given. ${uneven}, or a multiple of it, makes it even.`}
        </Note>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: { md: '1fr 1fr 110px' }, gap: 2 }}>
        <TextField
          label="The question they answer"
          value={part.prompt}
          onChange={({ target }) => onChange({ prompt: target.value })}
          error={Boolean(errors?.prompt)}
          helperText={errors?.prompt?.message}
        />
        <TextField
          select
          label="Clips they hear"
          value={set.id}
          onChange={({ target }) => onChange({ clipSetId: target.value, pair: null })}
        >
          {sets.map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Trials for each"
          type="number"
          value={Number.isNaN(part.trials) ? '' : part.trials}
          onChange={({ target }) =>
            onChange({ trials: target.value === '' ? Number.NaN : Number(target.value) })
          }
          error={Boolean(errors?.trials)}
          helperText={errors?.trials?.message ?? `${round} for one round`}
        />
        {pairLabels && (set.chains > 2 || task.ofOnePair) && (
          <>
            {chainChoice(0, pairLabels[0], first)}
            {chainChoice(1, pairLabels[1], second)}
          </>
        )}
        {task.adaptable && set.chains > 2 && (
          <FormControlLabel
            sx={{ gridColumn: '1 / -1' }}
            control={
              <Checkbox
                size="small"
                checked={part.adaptive}
                onChange={(_, adaptive) =>
                  onChange(
                    adaptive
                      ? { adaptive, pair: null, controls: { ...part.controls, repeats: 0 } }
                      : { adaptive },
                  )
                }
              />
            }
            label="Adaptive: after each answer the pair that tells most of this listener comes up, by a rule that is sealed. Off by default: it spares trials on one listener’s order, gives the panel’s test no more power, and sizes lean to even where tastes differ strongly"
          />
        )}
        {errors?.adaptive && (
          <Typography color="error" sx={{ gridColumn: '1 / -1', fontSize: '0.75rem' }}>
            {errors.adaptive.message}
          </Typography>
        )}
        {task.tiesOffered && (
          <FormControlLabel
            sx={{ gridColumn: '1 / -1' }}
            control={
              <Checkbox
                size="small"
                checked={part.tiesAllowed}
                onChange={(_, on) => onChange({ tiesAllowed: on })}
              />
            }
            label="“No preference” may be answered"
          />
        )}
        <Controls part={part} onChange={onChange} />
        {task.asksWords && (
          <Autocomplete
            multiple
            freeSolo
            sx={{ gridColumn: '1 / -1' }}
            options={[...TONAL_WORDS, ...STEREO_WORDS]}
            value={part.words}
            onChange={(_, words) => onChange({ words: words.map((word) => word.trim()) })}
            renderInput={(props) => (
              <TextField
                {...props}
                label="Words to tick"
                error={Boolean(errors?.words)}
                helperText={errors?.words?.message ?? 'Write a word and press Enter to add it.'}
              />
            )}
          />
        )}
      </Box>
    </Box>
  );
}
