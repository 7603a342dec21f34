'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { programmeStep } from '@/core/checks/programme';
import { TAKES } from '@/steps/takes/endpoints';
import type { RunSheetView } from '@/steps/takes/run-sheet';
import type { Written } from '@/steps/takes/log-entry';
import { isDone, runGroups } from '@/steps/takes/run-groups';
import type { RunLine } from '@/steps/takes/run-sheet-store';
import { ConfirmDialog } from '@/ui/ConfirmDialog';
import { countWord } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { useKeptPage } from '@/ui/offline/useKeptPage';
import { Note, PageHeading } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { type LogState, useRunLog } from './useRunLog';
import { RunGroupRow } from './RunGroupRow';
import { RunLineRow } from './RunLineRow';
import { RunPlanForm } from './RunPlanForm';

/** What was written here counts until the page was read with it. */
function merged(lines: RunLine[], { waiting, taken }: LogState): RunLine[] {
  return lines.map((line) => {
    const here = waiting.find(({ lineId }) => lineId === line.id);
    const own = here ?? taken.find(({ lineId }) => lineId === line.id);
    const older = own && line.writtenAt && new Date(line.writtenAt) >= new Date(own.writtenAt);
    if (!own || (!here && older)) return line;
    const { done, gainDb, knob, distanceM, remark } = own;
    return { ...line, done, gainDb, knob, distanceM, remark, writtenAt: new Date(own.writtenAt) };
  });
}

function standingWords(standing: LogState['standing']): string {
  if (typeof standing === 'object') return standing.refused;
  return standing === 'away' ? 'The connection is away.' : 'Sending.';
}

function nextWords(group: readonly RunLine[]): string {
  const [first] = group;
  if (!first) return '';
  return group.length > 1
    ? `${countWord(group.length, 'chain').toLowerCase()} at once`
    : first.chainName;
}

function minutesLeft(lines: RunLine[]): number {
  return Math.round(lines.reduce((sum, { done, minutes }) => sum + (done ? 0 : minutes), 0));
}

/** The sheet at the stand: on paper, or on a phone that may lose its connection. */
export function RunSheetScreen({
  comparisonId,
  view,
}: {
  comparisonId: string;
  view: RunSheetView;
}) {
  const { send, busy } = useSend();
  const { log, write } = useRunLog(comparisonId);
  const [clearing, setClearing] = useState(false);
  const kept = useKeptPage(view.lines.map(({ id }) => id).join(' '));
  const lines = merged(view.lines, log);
  const groups = runGroups(lines);
  const done = groups.filter(isDone).length;
  const next = groups.find((group) => !isDone(group));
  const enter = (line: RunLine, entry: Partial<Written>) =>
    write({
      lineId: line.id,
      done: line.done,
      gainDb: line.gainDb,
      knob: line.knob,
      distanceM: line.distanceM,
      remark: line.remark,
      ...entry,
      writtenAt: new Date().toISOString(),
    });
  const row = (line: RunLine, isNext: boolean, inGroup = false) => (
    <RunLineRow
      key={line.id}
      line={line}
      settings={view.settings[line.chainId] ?? []}
      stop={view.stops[line.chainId] ?? null}
      severalSources={!inGroup && view.sources.length > 1}
      isNext={isNext}
      onWrite={(entry) => enter(line, entry)}
    />
  );
  if (lines.length === 0) {
    return <RunPlanForm comparisonId={comparisonId} view={view} />;
  }
  const ticked = lines.filter((line) => line.done).length;
  const days = [...new Set(lines.map(({ day }) => day))];
  const cautions = [
    ...new Set(lines.flatMap(({ programme }) => programmeStep(programme).caution ?? [])),
  ];
  return (
    <Box sx={{ '@media print': { fontSize: '10pt', color: '#000' } }}>
      <PageHeading
        finding={
          done === groups.length
            ? `${countWord(groups.length, 'line')}, all done`
            : `${done} of ${groups.length} lines done, about ${minutesLeft(lines)} minutes left`
        }
        aside={next ? `Next: ${nextWords(next)}` : 'Drop the files at Takes.'}
        action={
          <Box sx={{ display: 'flex', gap: 1, displayPrint: 'none' }}>
            <Button onClick={() => window.print()}>Print</Button>
            <Button disabled={busy} onClick={() => setClearing(true)}>
              Clear the sheet
            </Button>
            <Button component={NextLink} href={`/comparisons/${comparisonId}/takes`}>
              To the takes
            </Button>
          </Box>
        }
      />
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', displayPrint: 'none' }}>
        {kept
          ? 'Without a connection this page goes on, opens anew on this device and keeps what you write.'
          : 'Keep this page open at the stand: without a connection it goes on and keeps what you write, but it cannot be opened anew.'}{' '}
        The gain of a preamp without a scale is written as “knob 3”.
      </Typography>
      {log.waiting.length > 0 && (
        <Note kind={log.kept === 'on this device' ? 'caution' : 'problem'}>
          {countWord(log.waiting.length, 'entry waits', 'entries wait')} {log.kept}
          {log.kept === 'on this device' ? '' : ': do not close it before they are sent'}.{' '}
          {standingWords(log.standing)}
        </Note>
      )}
      {log.overruled > 0 && (
        <Note kind="caution">
          {countWord(log.overruled, 'line was', 'lines were')} written later on another device; both
          writings are shown there.
        </Note>
      )}
      {view.remarks.map((remark) => (
        <Note key={remark} kind="caution">
          {remark}
        </Note>
      ))}
      {view.proved.map((sentence) => (
        <Note key={sentence} kind="plain">
          {sentence}
        </Note>
      ))}
      <Note kind="caution">
        Read the cautions under the sheet before you begin:{' '}
        {view.cautions.map(({ caution: { title } }) => title.toLowerCase()).join(' · ') ||
          'mute before switching phantom power'}
        .
      </Note>
      {days.map((day) => (
        <Box key={day} sx={{ mt: 3 }}>
          {days.length > 1 && <Typography variant="h2">Day {day}</Typography>}
          <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
            {groups
              .filter((group) => group[0]!.day === day)
              .map((group) =>
                group.length === 1 ? (
                  row(group[0]!, group === next)
                ) : (
                  <RunGroupRow
                    key={group[0]!.id}
                    lines={group}
                    severalSources={view.sources.length > 1}
                    isNext={group === next}
                    onDone={(done) => group.forEach((line) => enter(line, { done }))}
                  >
                    {group.map((line) => row(line, false, true))}
                  </RunGroupRow>
                ),
              )}
          </Box>
        </Box>
      ))}
      <Typography variant="h2" sx={{ mt: 3 }}>
        Cautions
      </Typography>
      <Box component="ul" sx={{ pl: 2.5, maxWidth: '86ch', fontSize: '0.9375rem' }}>
        {view.cautions.map(({ caution: { id, title, text, defersTo } }) => (
          <li key={id}>
            <b>{title}.</b> {text} Above this stands {defersTo}.
          </li>
        ))}
        {cautions.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </Box>
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem', mt: 2, maxWidth: '80ch' }}>
        Estimated: four minutes for a take, one or two for a step of the test programme, two for
        plugging in another chain. Local rules and qualified people come before this sheet wherever
        mains, heavy stands or loud sources are concerned.{' '}
        <Link underline="always" component={NextLink} href={`/comparisons/${comparisonId}/chains`}>
          Cautions of this plan
        </Link>
      </Typography>
      <ConfirmDialog
        open={clearing}
        title="Clear the sheet?"
        text={
          ticked > 0
            ? `${countWord(ticked, 'line is', 'lines are')} ticked off; what was written in them is deleted. Takes are not touched.`
            : 'Another sheet can be written from the plan.'
        }
        action="Clear"
        onBack={() => setClearing(false)}
        onConfirm={() => {
          setClearing(false);
          void send(TAKES.clearRunSheet, { id: comparisonId });
        }}
      />
    </Box>
  );
}
