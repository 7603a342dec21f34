'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { UploadLines } from '@/steps/takes/ui/UploadLines';
import { useUploads } from '@/steps/takes/ui/useUploads';
import { useSend } from '@/ui/useSend';

/** Sends the archive, then opens the place that it comes to. */
function Sending({ comparisonId, file }: { comparisonId: string; file: File }) {
  const router = useRouter();
  const uploads = useUploads(comparisonId, '');
  const begun = useRef(false);
  const { lines, add } = uploads;
  const [went, setWent] = useState(false);
  if (lines.length > 0 && !went) setWent(true);
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    add([file]);
  }, [add, file]);
  const sent = went && lines.length === 0;
  useEffect(() => {
    if (sent) router.push(`/comparisons/${comparisonId}/takes`);
  }, [sent, router, comparisonId]);
  return <UploadLines uploads={uploads} />;
}

/** A whole comparison from the zip that Export made, here or in another bank. */
export function ImportComparison() {
  const [open, setOpen] = useState(false);
  const [going, setGoing] = useState<{ comparisonId: string; file: File } | null>(null);
  const { send, busy } = useSend();
  const input = useRef<HTMLInputElement>(null);
  const begin = async (file: File) => {
    const made = await send(COMPARISONS.bringIn, {}, { fileName: file.name });
    if (made) setGoing({ comparisonId: made.id, file });
  };
  return (
    <>
      <Button onClick={() => setOpen(true)}>Import</Button>
      {open && (
        <Dialog open onClose={going ? undefined : () => setOpen(false)} maxWidth="sm" fullWidth>
          <DialogTitle>Import a comparison</DialogTitle>
          <DialogContent>
            {going ? (
              <Sending {...going} />
            ) : (
              <Typography>
                Choose the zip that <i>Export</i> of a comparison made, in this program or another
                bank’s. It comes as a whole: question, chains, takes, clips, sittings with their
                seals and answers, marks and decisions. Whoever wrote something there stands beside
                it by name; nobody of your studio is taken for them. Links to sittings, and who of
                the panel listened, stay where they were.
              </Typography>
            )}
            <input
              ref={input}
              type="file"
              accept=".zip"
              hidden
              aria-label="Archive of a comparison"
              onChange={({ target }) => {
                const [file] = target.files ?? [];
                if (file) void begin(file);
                target.value = '';
              }}
            />
          </DialogContent>
          {!going && (
            <DialogActions>
              <Button onClick={() => setOpen(false)}>Cancel</Button>
              <Button variant="contained" disabled={busy} onClick={() => input.current?.click()}>
                Choose a file
              </Button>
            </DialogActions>
          )}
        </Dialog>
      )}
    </>
  );
}
