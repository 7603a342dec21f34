'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { TASKS } from '@/core/tasks';
import { SITTINGS } from '@/steps/sitting/endpoints';
import type { ResultsFilePreview } from '@/steps/sitting/schema';
import { countWord } from '@/ui/format';
import { Note } from '@/ui/Sheet';
import { useSend } from '@/ui/useSend';
import { ElsewhereDialog } from './ElsewhereDialog';

const SHOWN_FAULTS = 30;

/** What was found in the file: of the answers no more than how many there are. */
function Found({ preview }: { preview: ResultsFilePreview }) {
  const { parts, listeners, remarks, faults, before } = preview;
  return (
    <Box sx={{ mt: 2 }} role="status">
      <Typography>
        {countWord(listeners, 'listener')}
        {parts.length > 0 && ':'}
      </Typography>
      <ul>
        {parts.map(({ task, heard, listeners: asked, trials }) => (
          <li key={`${task} ${heard}`}>
            {TASKS[task].name} {heard && `${heard}: `}
            {countWord(trials, 'trial').toLowerCase()} of {asked}{' '}
            {asked === 1 ? 'listener' : 'listeners'}
          </li>
        ))}
      </ul>
      {before.map((title) => (
        <Note key={title} kind="caution">
          This very file was imported already, as “{title}”; nobody should count twice.
        </Note>
      ))}
      {remarks.length > 0 && <Note kind="plain">{remarks.join('; ')}.</Note>}
      {faults.length > 0 && (
        <Note kind="problem">
          This file cannot be imported as it is; nothing was. Correct it and choose it again.
          <ul>
            {faults.slice(0, SHOWN_FAULTS).map((fault) => (
              <li key={fault}>{fault}</li>
            ))}
          </ul>
          {faults.length > SHOWN_FAULTS && `And ${faults.length - SHOWN_FAULTS} more.`}
        </Note>
      )}
    </Box>
  );
}

/** Takes in the results of another program over clips of this comparison. */
export function ImportResults({ comparisonId }: { comparisonId: string }) {
  const { send, busy } = useSend();
  return (
    <ElsewhereDialog<ResultsFilePreview>
      comparisonId={comparisonId}
      button="Import results"
      heading="Import the results of another program"
      lead={
        <>
          One CSV, a row for each answer, with the columns of a results file: listener, source,
          context, trial, task, chain, chain_b, first, response, replicate, correct. Chains, sources
          and contexts are named as they are here. It becomes a closed sitting of its own, marked as
          brought in wherever it is read: nothing of it was sealed here.
        </>
      }
      title="Brought in"
      choose="Choose the file"
      ask={async ([file], title, apply) =>
        file ? send(SITTINGS.importResults, { id: comparisonId }, { ...file, title, apply }) : null
      }
      good={({ faults, listeners }) => faults.length === 0 && listeners > 0}
      Found={Found}
      busy={busy}
    />
  );
}
