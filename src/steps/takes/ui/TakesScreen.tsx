'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import CloseIcon from '@mui/icons-material/Close';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import type { Chain } from '@/steps/chains/schema';
import type { ShownTake } from '@/steps/takes/schema';
import type { TakesView } from '@/steps/takes/takes-view';
import { ConfirmDialog } from '@/ui/ConfirmDialog';
import { countWord } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { Note, PageHeading } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { useUndo } from '@/ui/useUndo';
import { BaselinePanel } from './BaselinePanel';
import { BenchDialog } from './BenchDialog';
import { ComparePanel } from './ComparePanel';
import { CoverageTable } from './CoverageTable';
import { NumbersPanel } from './NumbersPanel';
import { ChainsOfNames } from './ChainsOfNames';
import { GainPanel } from './GainPanel';
import { PatternField } from './PatternField';
import { TakeTable } from './TakeTable';
import { UploadLines } from './UploadLines';
import { useUploads } from './useUploads';
import { TAKES } from '@/steps/takes/endpoints';
import { COMPARISONS } from '@/steps/comparisons/endpoints';

interface Work {
  subjectId: string;
  progress: number;
}

function findingOf(
  chains: Chain[],
  { all, performances, chainsWithOne: having }: TakesView['takes'],
): string {
  if (all === 0) return 'No take yet';
  if (chains.length === 0) return `${countWord(all, 'file')}, no chain named yet`;
  if (having === 0 || having < chains.length) {
    return `${countWord(having, 'chain has', 'chains have')} a take, of ${chains.length}`;
  }
  return performances === having
    ? `${countWord(having, 'take')}, one for each chain`
    : `${countWord(performances, 'take')}, at least one for each chain`;
}

/** The step from the stand to checked files: what arrived, whose it is, and what it can prove. */
export function TakesScreen({
  comparisonId,
  chains,
  view,
  guarded,
  work,
}: {
  comparisonId: string;
  chains: Chain[];
  view: TakesView;
  /** Takes that open sittings ask about. */
  guarded: readonly string[];
  work: Work[];
}) {
  const { takes, sources, archives, sets, numbers, coverage, runSheet } = view;
  const { tab } = takes.query;
  const here = `/comparisons/${comparisonId}/takes`;
  const [pattern, setPattern] = useState('');
  const uploads = useUploads(comparisonId, pattern);
  const [removing, setRemoving] = useState<ShownTake[]>([]);
  const [gone, setGone] = useState<readonly string[]>([]);
  const [bench, setBench] = useState(false);
  const offerUndo = useUndo();
  const { send } = useSend();
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => uploads.add(files),
    noClick: true,
    noKeyboard: true,
  });
  const remove = async () => {
    const going = removing;
    setRemoving([]);
    const done: string[] = [];
    for (const { id } of going) {
      if ((await send(TAKES.remove, { id: comparisonId, takeId: id })) === null) break;
      done.push(id);
      setGone((before) => [...before, id]);
    }
    if (done.length === 0) return;
    offerUndo(
      done.length === 1 ? 'The take is removed.' : `${done.length} takes are removed.`,
      async (again) => {
        for (const takeId of done) await again(TAKES.restore, { id: comparisonId, takeId });
        setGone((before) => before.filter((id) => !done.includes(id)));
      },
    );
  };
  const files = (
    <>
      <PatternField
        pattern={pattern}
        onChange={setPattern}
        chains={chains}
        sources={sources}
        names={[...uploads.lines.map(({ name }) => name), ...takes.names].slice(0, 4)}
      />
      <UploadLines uploads={uploads} />
      {archives.map(({ id, fileName, state, remark }) => (
        <Note key={id} kind={state === 'failed' ? 'problem' : 'plain'}>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Box sx={{ flex: 1 }}>
              {fileName}: {state === 'waiting' ? 'being unpacked' : remark}
            </Box>
            {state !== 'waiting' && (
              <IconButton
                size="small"
                aria-label={`Put ${fileName} aside`}
                onClick={() => void send(TAKES.removeArchive, { id: comparisonId, archiveId: id })}
              >
                <CloseIcon fontSize="small" />
              </IconButton>
            )}
          </Box>
        </Note>
      ))}
      {sets.map(({ source, remarks }) =>
        remarks.map((remark) => (
          <Note key={`${source.id} ${remark}`} kind="caution">
            {sets.length > 1 ? `${source.name}, recorded ${source.capture}: ` : ''}
            {remark}
          </Note>
        )),
      )}
      {view.proposedChains.length > 0 && (
        <ChainsOfNames comparisonId={comparisonId} proposals={view.proposedChains} />
      )}
      {view.proposedPassages.map((name) => (
        <Note key={name} kind="plain">
          The files speak of “{name}”, which is no passage yet.{' '}
          <Button
            size="small"
            onClick={() => void send(COMPARISONS.addPassage, { id: comparisonId }, { name })}
          >
            Add it as a passage
          </Button>
        </Note>
      ))}
      {takes.all > 0 && (
        <TakeTable
          path={here}
          comparisonId={comparisonId}
          chains={chains}
          sources={sources}
          programme={view.programme}
          list={takes}
          gone={gone}
          guarded={guarded}
          work={work}
          onRemove={setRemoving}
        />
      )}
    </>
  );
  return (
    <Box {...getRootProps()} sx={{ minHeight: '60vh' }}>
      <input {...getInputProps()} aria-label="WAV files" />
      <PageHeading
        finding={findingOf(chains, takes)}
        aside="Drop WAV or FLAC files, folders or zips anywhere on this page. Chains are guessed from file names; correct them with one click."
        action={
          <>
            <Button component={NextLink} href={`/comparisons/${comparisonId}/run-sheet`}>
              {runSheet.lines === 0 ? 'Plan the recording' : 'Run sheet'}
            </Button>
            <Button onClick={() => setBench(true)}>Simulated bench</Button>
            <Button variant="contained" onClick={open}>
              Choose files
            </Button>
          </>
        }
      />
      {runSheet.lines > 0 && (
        <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mb: 1 }}>
          Run sheet: {runSheet.done} of {runSheet.lines} recordings ticked off,{' '}
          {Math.round(runSheet.minutes)} minutes in all.
        </Typography>
      )}
      {takes.all > 0 && (
        <Tabs
          value={tab}
          aria-label="What is shown of the takes"
          sx={{ mb: 2, borderBottom: `1px solid ${token('hair')}` }}
        >
          <Tab component={NextLink} href={here} value="files" label="Files" />
          <Tab
            component={NextLink}
            href={`${here}?tab=measured`}
            value="measured"
            label={coverage.gaps > 0 ? `Measured · ${coverage.gaps} missing` : 'Measured'}
          />
        </Tabs>
      )}
      {(isDragActive || takes.all === 0) && (
        <Box
          sx={{
            border: `1px dashed ${token(isDragActive ? 'pen' : 'soft')}`,
            bgcolor: token(isDragActive ? 'wash' : 'card'),
            p: 4,
            mb: 2,
            textAlign: 'center',
          }}
        >
          {isDragActive
            ? 'Let go: each file is stored once and checked.'
            : 'One take per chain of the same performance is best. Repeated performances work too: then record at least two takes of each chain.'}
        </Box>
      )}
      {tab === 'measured' && takes.all > 0 ? (
        <>
          <CoverageTable coverage={coverage} chains={chains} sources={sources} />
          <BaselinePanel sets={sets} />
          {view.gain && <GainPanel gain={view.gain} />}
          {numbers.length > 0 && <NumbersPanel numbers={numbers} />}
          <ComparePanel comparisonId={comparisonId} choices={view.choices} />
        </>
      ) : (
        files
      )}
      {bench && (
        <BenchDialog
          comparisonId={comparisonId}
          chains={chains}
          sources={sources}
          onClose={() => setBench(false)}
        />
      )}
      <ConfirmDialog
        open={removing.length > 0}
        title={
          removing.length === 1
            ? `Remove ${removing[0]!.fileName}?`
            : `Remove ${removing.length} takes?`
        }
        text="For thirty days the bin holds what is removed, then the stored recording is deleted; your own file is not touched. Takes that clips were made of stay."
        action="Remove"
        onBack={() => setRemoving([])}
        onConfirm={() => void remove()}
      />
    </Box>
  );
}
