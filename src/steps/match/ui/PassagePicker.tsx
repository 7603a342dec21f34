'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Passage, Source } from '@/steps/comparisons/schema';
import type { ShownTake } from '@/steps/takes/schema';
import { recordedSteps } from './of-passage';
import { useSend } from '@/ui/useSend';
import { useUndo } from '@/ui/useUndo';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { MATCH } from '@/steps/match/endpoints';

/** Adds a passage, or names one anew. */
function PassageDialog({
  comparisonId,
  sources,
  takes,
  passage,
  onClose,
}: {
  comparisonId: string;
  sources: Source[];
  takes: readonly ShownTake[];
  /** The one to rename; a new one when absent. */
  passage?: Passage;
  onClose: (made: string | null) => void;
}) {
  const { send, busy } = useSend();
  const [name, setName] = useState(passage?.name ?? '');
  const [source, setSource] = useState(sources[0]!.id);
  const [chosen, setChosen] = useState(0);
  const steps = recordedSteps(takes, source);
  const step = steps[chosen];
  const { programme, detail } = step ?? { programme: 'performance' as const, detail: '' };
  const usual = programme === 'performance' ? '' : (step?.label ?? '');
  const keep = async () => {
    if (passage) {
      const done = await send(
        COMPARISONS.changePassage,
        { id: comparisonId, passageId: passage.id },
        { name },
      );
      if (done !== null) onClose(null);
      return;
    }
    const made = await send(
      COMPARISONS.addPassage,
      { id: comparisonId },
      { name: name.trim() || usual, sourceId: source, programme, detail },
    );
    if (made) onClose(made.id);
  };
  return (
    <Dialog open onClose={() => onClose(null)} fullWidth maxWidth="xs">
      <DialogTitle>{passage ? 'Name the passage' : 'Another passage'}</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'grid', gap: 2, pt: 1 }}>
          <TextField
            label="Name of the passage"
            value={name}
            onChange={({ target }) => setName(target.value)}
            placeholder={passage ? '' : usual}
            slotProps={{
              htmlInput: { maxLength: 120 },
              inputLabel: usual === '' || passage ? {} : { shrink: true },
            }}
          />
          {!passage && sources.length > 1 && (
            <TextField
              select
              label="Of the source"
              value={source}
              onChange={({ target }) => {
                setSource(target.value);
                setChosen(0);
              }}
            >
              {sources.map((one) => (
                <MenuItem key={one.id} value={one.id}>
                  {one.name}
                </MenuItem>
              ))}
            </TextField>
          )}
          {!passage && steps.length > 1 && (
            <TextField
              select
              label="Cut from"
              value={chosen}
              onChange={({ target }) => setChosen(Number(target.value))}
              helperText={
                programme === 'performance'
                  ? undefined
                  : 'Takes that were not made at once are laid by onsets or by hand, under “How takes are laid in time”.'
              }
            >
              {steps.map(({ label, chains }, i) => (
                <MenuItem key={label} value={i}>
                  {label}, {chains} chains
                </MenuItem>
              ))}
            </TextField>
          )}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={() => onClose(null)}>Cancel</Button>
        <Button
          variant="contained"
          disabled={busy || (name.trim() === '' && (usual === '' || passage !== undefined))}
          onClick={() => void keep()}
        >
          {passage ? 'Save' : 'Add'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Which passage is looked at; several may be cut from the takes of a source. */
export function PassagePicker({
  comparisonId,
  page,
  sources,
  passages,
  takes,
  passage,
}: {
  comparisonId: string;
  takes: readonly ShownTake[];
  /** Address of this page. */
  page: string;
  sources: Source[];
  passages: Passage[];
  passage: Passage;
}) {
  const offerUndo = useUndo();
  const router = useRouter();
  const { send } = useSend();
  const [open, setOpen] = useState<'new' | 'name' | null>(null);
  const go = (id: string) => router.push(`${page}?passage=${id}`);
  const first = passages[0]!.id === passage.id;
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'center', mb: 1.5 }}>
      {passages.length > 1 && (
        <TextField
          select
          size="small"
          label="Passage"
          value={passage.id}
          onChange={({ target }) => go(target.value)}
          sx={{ minWidth: 260 }}
        >
          {passages.map(({ id, name, sourceName }) => (
            <MenuItem key={id} value={id}>
              {sources.length > 1 ? `${sourceName}: ${name}` : name}
            </MenuItem>
          ))}
        </TextField>
      )}
      <Button size="small" onClick={() => setOpen('new')}>
        Another passage
      </Button>
      <Button size="small" onClick={() => setOpen('name')}>
        Rename
      </Button>
      {!first && (
        <Button
          size="small"
          onClick={() => {
            void send(COMPARISONS.removePassage, { id: comparisonId, passageId: passage.id }).then(
              (done) => {
                if (done === null) return;
                router.push(page);
                const ids = { id: comparisonId, passageId: passage.id };
                offerUndo(`“${passage.name}” is removed.`, (again) =>
                  again(MATCH.restorePassage, ids),
                );
              },
            );
          }}
        >
          Remove “{passage.name}”
        </Button>
      )}
      {open && (
        <PassageDialog
          comparisonId={comparisonId}
          sources={sources}
          takes={takes}
          passage={open === 'name' ? passage : undefined}
          onClose={(made) => {
            setOpen(null);
            if (made) go(made);
          }}
        />
      )}
    </Box>
  );
}
