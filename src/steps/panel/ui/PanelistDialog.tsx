'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useForm } from 'react-hook-form';
import { useSend } from '@/ui/useSend';
import { type Panelist, type PanelistDraft, panelistDraft } from '../schema';
import { PANEL } from '@/steps/panel/endpoints';

const FIELDS = [
  ['alias', 'Name', 'Any word will do.'],
  ['experience', 'Experience', 'Plays, records, mixes, listens; in their own words.'],
  ['hearing', 'Hearing, as they say', 'Only if they want to tell.'],
  ['playback', 'Listens on', 'Headphones or loudspeakers they know.'],
] as const;

/** Writes down somebody of the panel. */
export function PanelistDialog({
  panelist,
  onClose,
}: {
  panelist: Panelist | null;
  onClose: () => void;
}) {
  const { send } = useSend();
  const { register, handleSubmit, formState } = useForm<PanelistDraft>({
    resolver: zodResolver(panelistDraft),
    defaultValues: panelist ?? { alias: '', experience: '', hearing: '', playback: '' },
  });
  const { errors, isSubmitting } = formState;
  const submit = async (draft: PanelistDraft) => {
    const kept = panelist
      ? await send(PANEL.change, { panelistId: panelist.id }, draft)
      : await send(PANEL.add, {}, draft);
    if (kept !== null) onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <form noValidate onSubmit={(event) => void handleSubmit(submit)(event)}>
        <DialogTitle>{panelist ? panelist.alias : 'A listener of the panel'}</DialogTitle>
        <DialogContent>
          <Box sx={{ display: 'grid', gap: 2, pt: 1 }}>
            {FIELDS.map(([field, label, help]) => (
              <TextField
                key={field}
                label={label}
                multiline={field === 'experience' || field === 'hearing'}
                error={Boolean(errors[field])}
                helperText={errors[field]?.message ?? help}
                {...register(field)}
              />
            ))}
          </Box>
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={isSubmitting}>
            Save
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
