'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { SITTINGS } from '@/steps/sitting/endpoints';
import type { PackPreview } from '@/steps/sitting/schema';
import { DataTable } from '@/ui/DataTable';
import { countWord, day } from '@/ui/format';
import { Note } from '@/ui/Sheet';
import { readTextFile } from '@/ui/text-file';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';

const SHOWN_FAULTS = 100;

type Sheet = { name: string; text: string };

/** What was found in the sheets; of the answers no more than how many there are. */
function Found({ preview }: { preview: PackPreview }) {
  const { listeners, skipped, faults, before } = preview;
  const all = listeners.reduce((sum, { answers }) => sum + answers, 0);
  const left = [
    skipped.missing > 0 && `${countWord(skipped.missing, 'row')} without a choice`,
    skipped.blank > 0 && `${countWord(skipped.blank, 'empty row')}`,
    skipped.duplicate > 0 && `${countWord(skipped.duplicate, 'row')} that came twice`,
  ].filter(Boolean);
  return (
    <Box sx={{ mt: 2 }} role="status">
      <Typography>
        {countWord(listeners.length, 'listener')}, {countWord(all, 'answer').toLowerCase()}
        {listeners.length > 0 &&
          `: ${listeners.map(({ name, answers }) => `${name} ${answers}`).join(', ')}`}
        .{left.length > 0 && ` Left out: ${left.join(', ').toLowerCase()}.`}
      </Typography>
      {before.map(({ title, at }) => (
        <Note key={`${title} ${at}`} kind="caution">
          Answers to this pack were imported {day(at)} already, as “{title}”. Import only sheets
          that are not in it: nobody should count twice.
        </Note>
      ))}
      {faults.length > 0 && (
        <>
          <Note kind="problem">
            {faults.length === 1 ? 'One row' : `${faults.length} rows`} cannot be read. Correct the
            sheets and choose them again; nothing is imported before.
          </Note>
          <DataTable
            label="Faults"
            rows={faults.slice(0, SHOWN_FAULTS)}
            keyOf={(_, i) => String(i)}
            columns={[
              { label: 'Sheet', cell: ({ sheet }) => sheet, sx: { overflowWrap: 'anywhere' } },
              {
                label: 'What is wrong',
                cell: ({ message }) => message,
                sx: { color: token('red'), overflowWrap: 'anywhere' },
              },
            ]}
          />
          {faults.length > SHOWN_FAULTS && (
            <Typography>And {faults.length - SHOWN_FAULTS} more.</Typography>
          )}
        </>
      )}
    </Box>
  );
}

/** Takes in the answers to a blind pack: looked at first, then kept as a closed sitting of their own. */
export function PackAnswers({
  comparisonId,
  packId,
  madeAt,
}: {
  comparisonId: string;
  packId: string;
  madeAt: Date;
}) {
  const router = useRouter();
  const { send, busy } = useSend();
  const [open, setOpen] = useState(false);
  const [title, setTitle] = useState(`Blind pack of ${day(madeAt)}`);
  const [sheets, setSheets] = useState<Sheet[]>([]);
  const [preview, setPreview] = useState<PackPreview | null>(null);
  const ids = { id: comparisonId, packId };
  const look = async (files: readonly File[]) => {
    const read = await Promise.all(
      files.map(async (file) => ({ name: file.name, text: await readTextFile(file) })),
    );
    setSheets(read);
    const found = await send(SITTINGS.importPack, ids, { sheets: read, title, apply: false });
    setPreview(found?.preview ?? null);
  };
  const apply = async () => {
    const made = await send(SITTINGS.importPack, ids, { sheets, title, apply: true });
    if (made?.sittingId) {
      router.push(`/comparisons/${comparisonId}/results?sitting=${made.sittingId}`);
    }
  };
  const good = preview !== null && preview.faults.length === 0 && preview.listeners.length > 0;
  return (
    <>
      <Button onClick={() => setOpen(true)}>Import answers</Button>
      <Dialog open={open} onClose={() => setOpen(false)} fullWidth maxWidth="md">
        <DialogTitle>Import the answers to this pack</DialogTitle>
        <DialogContent>
          <Typography sx={{ mb: 2, maxWidth: '76ch' }}>
            Choose the sheets that came back, one or several: <b>answers.csv</b> of the pack, filled
            in. They become a closed sitting of their own, read like any other, and never part of a
            sitting that was answered here. Importing opens the key of the pack.
          </Typography>
          <TextField
            label="Title of the sitting"
            value={title}
            onChange={({ target }) => setTitle(target.value)}
            slotProps={{ htmlInput: { maxLength: 120 } }}
            sx={{ mb: 2 }}
          />
          <Button component="label" variant="outlined" disabled={busy}>
            Choose sheets
            <input
              hidden
              multiple
              type="file"
              accept=".csv,.txt,text/csv"
              onChange={({ target }) => {
                void look([...(target.files ?? [])]);
                // The same file can be chosen again once it was corrected.
                target.value = '';
              }}
            />
          </Button>
          {preview && <Found preview={preview} />}
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Cancel</Button>
          <Button
            variant="contained"
            disabled={busy || !good || title.trim() === ''}
            onClick={() => void apply()}
          >
            Import
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
