'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { SITTINGS } from '@/steps/sitting/endpoints';
import type { PackPreview } from '@/steps/sitting/schema';
import { DataTable } from '@/ui/DataTable';
import { countWord, day } from '@/ui/format';
import { Note } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { ElsewhereDialog } from './ElsewhereDialog';

const SHOWN_FAULTS = 100;

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
  const { send, busy } = useSend();
  const ids = { id: comparisonId, packId };
  return (
    <ElsewhereDialog<PackPreview>
      comparisonId={comparisonId}
      button="Import answers"
      heading="Import the answers to this pack"
      lead={
        <>
          Choose the sheets that came back, one or several: <b>answers.csv</b> of the pack, filled
          in. They become a closed sitting of their own, read like any other, and never part of a
          sitting that was answered here. Importing opens the key of the pack.
        </>
      }
      title={`Blind pack of ${day(madeAt)}`}
      choose="Choose sheets"
      multiple
      ask={(sheets, title, apply) => send(SITTINGS.importPack, ids, { sheets, title, apply })}
      good={({ faults, listeners }) => faults.length === 0 && listeners.length > 0}
      Found={Found}
      busy={busy}
    />
  );
}
