'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { HOUSE } from '@/platform/endpoints';
import { type Found, FoundPicker } from './FoundPicker';
import { token } from './tokens';
import { useRead } from './useRead';
import { useSend } from './useSend';

interface Shown {
  limited: boolean;
  comparisons: Found[];
}

function Fields({
  accountId,
  before,
  onClose,
}: {
  accountId: string;
  before: Shown;
  onClose: () => void;
}) {
  const { send, busy } = useSend();
  const [draft, setDraft] = useState(before);
  const save = async () => {
    const { limited, comparisons } = draft;
    const comparisonIds = limited ? comparisons.map(({ id }) => id) : [];
    if (await send(HOUSE.changeShown, { accountId }, { limited, comparisonIds })) onClose();
  };
  return (
    <>
      <DialogContent sx={{ display: 'grid', gap: 2 }}>
        <FormControlLabel
          control={
            <Switch
              checked={!draft.limited}
              onChange={({ target }) => setDraft({ ...draft, limited: !target.checked })}
            />
          }
          label="All comparisons, also those that come"
        />
        {draft.limited && (
          <FoundPicker
            from={HOUSE.comparisonsFound}
            ids={{}}
            label="Comparisons"
            helperText="And those that they start themselves."
            value={draft.comparisons}
            onChange={(comparisons) => setDraft({ ...draft, comparisons })}
          />
        )}
        {draft.limited && (
          <Typography sx={{ color: token('soft'), fontSize: '0.875rem' }}>
            Of others they see nothing: no list, no search, no result. Gear and panel are the
            studio’s, and shown to every engineer.
          </Typography>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={busy} onClick={() => void save()}>
          Save
        </Button>
      </DialogActions>
    </>
  );
}

/** Which comparisons somebody sees. */
export function ShownDialog({
  accountId,
  name,
  onClose,
}: {
  accountId: string;
  name: string;
  onClose: () => void;
}) {
  const { data, error } = useRead(HOUSE.shownTo, { accountId }, { revalidateOnFocus: false });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>What {name} sees</DialogTitle>
      {data ? (
        <Fields accountId={accountId} before={data} onClose={onClose} />
      ) : (
        <DialogContent>{error ? error.message : 'Looking …'}</DialogContent>
      )}
    </Dialog>
  );
}
