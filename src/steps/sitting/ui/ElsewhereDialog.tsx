'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { type ReactNode, useState } from 'react';
import { readTextFile } from '@/ui/text-file';

export interface ChosenFile {
  name: string;
  text: string;
}

/** Takes in answers that were given elsewhere: looked at first, then kept as a closed sitting of their own. */
export function ElsewhereDialog<Preview>({
  comparisonId,
  button,
  heading,
  lead,
  title: usual,
  choose,
  multiple = false,
  ask,
  good,
  Found,
  busy,
}: {
  comparisonId: string;
  /** What opens it. */
  button: string;
  heading: string;
  lead: ReactNode;
  /** Of the sitting, until another is typed. */
  title: string;
  choose: string;
  multiple?: boolean;
  /** Looks at files, and keeps them when told to; null where it did not work. */
  ask: (
    files: ChosenFile[],
    title: string,
    apply: boolean,
  ) => Promise<{ preview: Preview; sittingId: string | null } | null>;
  /** Whether what was found can be kept. */
  good: (preview: Preview) => boolean;
  Found: (props: { preview: Preview }) => ReactNode;
  busy: boolean;
}) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [title, setTitle] = useState(usual);
  const [files, setFiles] = useState<ChosenFile[]>([]);
  const [preview, setPreview] = useState<Preview | null>(null);
  const look = async (chosen: readonly File[]) => {
    const read = await Promise.all(
      chosen.map(async (file) => ({ name: file.name, text: await readTextFile(file) })),
    );
    setFiles(read);
    setPreview((await ask(read, title, false))?.preview ?? null);
  };
  const apply = async () => {
    const made = await ask(files, title, true);
    if (made?.sittingId) {
      router.push(`/comparisons/${comparisonId}/results?sitting=${made.sittingId}`);
    }
  };
  return (
    <>
      <Button onClick={() => setOpen(true)}>{button}</Button>
      <Dialog open={open} onClose={() => setOpen(false)} fullWidth maxWidth="md">
        <DialogTitle>{heading}</DialogTitle>
        <DialogContent>
          <Typography sx={{ mb: 2, maxWidth: '76ch' }}>{lead}</Typography>
          <TextField
            label="Title of the sitting"
            value={title}
            onChange={({ target }) => setTitle(target.value)}
            slotProps={{ htmlInput: { maxLength: 120 } }}
            sx={{ mb: 2 }}
          />
          <Button component="label" variant="outlined" disabled={busy}>
            {choose}
            <input
              hidden
              multiple={multiple}
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
            disabled={busy || preview === null || !good(preview) || title.trim() === ''}
            onClick={() => void apply()}
          >
            Import
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
