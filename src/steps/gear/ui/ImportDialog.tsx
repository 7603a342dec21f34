'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import type { ImportPreview } from '@/steps/gear/schema';
import { DataTable } from '@/ui/DataTable';
import { countWord } from '@/ui/format';
import { type Encoding, ENCODINGS, encodingOf, textOf } from '@/ui/text-file';
import { Note } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { GEAR } from '@/steps/gear/endpoints';

const SHOWN_FAULTS = 100;

/** Brings a list in: from a file or pasted out of a spreadsheet, looked at before anything changes. */
export function ImportDialog({ onClose }: { onClose: () => void }) {
  const { send, busy } = useSend();
  const { enqueueSnackbar } = useSnackbar();
  const [csv, setCsv] = useState('');
  /** The file that was chosen, and how it is read. */
  const [file, setFile] = useState<{ bytes: Uint8Array; encoding: Encoding } | null>(null);
  const [preview, setPreview] = useState<ImportPreview | null>(null);
  const look = async (text: string) => {
    setCsv(text);
    setPreview(await send(GEAR.import, {}, { csv: text, apply: false }));
  };
  const open = async (bytes: Uint8Array, encoding: Encoding) => {
    setFile({ bytes, encoding });
    await look(textOf(bytes, encoding));
  };
  const count = (change: ImportPreview['rows'][number]['change']) =>
    preview?.rows.filter((row) => row.change === change).length ?? 0;
  const good = count('new') + count('changed');
  const apply = async () => {
    if (!(await send(GEAR.import, {}, { csv, apply: true }))) return;
    enqueueSnackbar(`${countWord(good, 'item')} brought in.`);
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>Import a list</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 2, maxWidth: '76ch' }}>
          The first line names the columns, as in the file that “Export” makes; <b>name</b> and{' '}
          <b>kind</b> are needed. Items are known by their name; columns that the list has not stay
          as they are.
        </Typography>
        <Box sx={{ display: 'flex', gap: 1, mb: 2 }}>
          <Button component="label" variant="outlined">
            Choose a file
            <input
              hidden
              type="file"
              accept=".csv,.tsv,.txt,text/csv"
              onChange={(event) =>
                void event.target.files?.[0]?.arrayBuffer().then((content) => {
                  const bytes = new Uint8Array(content);
                  return open(bytes, encodingOf(bytes));
                })
              }
            />
          </Button>
          {file && (
            <TextField
              select
              size="small"
              label="Written in"
              value={file.encoding}
              onChange={({ target }) => void open(file.bytes, target.value as Encoding)}
              sx={{ width: 260 }}
            >
              {ENCODINGS.map(([value, name]) => (
                <MenuItem key={value} value={value}>
                  {name}
                </MenuItem>
              ))}
            </TextField>
          )}
          <Button disabled={busy || csv.trim() === ''} onClick={() => void look(csv)}>
            Look at what is pasted
          </Button>
        </Box>
        <TextField
          label="Or paste from a spreadsheet"
          multiline
          minRows={3}
          maxRows={8}
          value={csv.length > 20_000 ? `${csv.slice(0, 20_000)}…` : csv}
          onChange={(event) => {
            setCsv(event.target.value);
            setFile(null);
            setPreview(null);
          }}
          slotProps={{
            htmlInput: { style: { fontFamily: 'var(--z-mono)', fontSize: '0.8125rem' } },
          }}
        />
        {preview && (
          <Box sx={{ mt: 2 }} role="status">
            <Typography>
              {countWord(count('new'), 'new item')}, {count('changed')} changed, {count('same')} as
              they were, {count('fault')} with a fault.
            </Typography>
            {preview.unknownColumns.length > 0 && (
              <Note kind="caution">
                Not known here and left out: {preview.unknownColumns.slice(0, 12).join(', ')}.
              </Note>
            )}
            {preview.faults.length > 0 && (
              <DataTable
                label="Faults"
                sx={{ mt: 1 }}
                rows={preview.faults.slice(0, SHOWN_FAULTS)}
                keyOf={({ line, column }) => `${line} ${column}`}
                columns={[
                  { label: 'Line', cell: ({ line }) => line, right: true },
                  { label: 'Column', cell: ({ column }) => column },
                  {
                    label: 'It says',
                    cell: ({ value }) => value || '(empty)',
                    sx: { overflowWrap: 'anywhere' },
                  },
                  {
                    label: 'What is wrong',
                    cell: ({ message }) => message,
                    sx: { color: token('red') },
                  },
                ]}
              />
            )}
            {preview.faults.length > SHOWN_FAULTS && (
              <Typography>And {preview.faults.length - SHOWN_FAULTS} more.</Typography>
            )}
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={busy || good === 0} onClick={() => void apply()}>
          {count('fault') > 0
            ? `Import ${good}, leave ${count('fault')} out`
            : `Import ${good === 0 ? 'them' : good}`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
