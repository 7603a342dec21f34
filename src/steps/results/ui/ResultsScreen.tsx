'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import { useRouter } from 'next/navigation';
import { ANALYSIS_PLAN } from '@/core/statistics/analysis-plan';
import { ALPHA, percent } from '@/core/statistics/words';
import { TASKS } from '@/core/tasks';
import { SITTINGS } from '@/steps/sitting/endpoints';
import type { Result, ResultPart, ResultsView } from '@/steps/results/service';
import { day } from '@/ui/format';
import { Note, PageHeading } from '@/ui/Sheet';
import { FACES, token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { SECTION_VIEWS } from './sections';

function ListenerTable({ result }: { result: Result }) {
  const pairs =
    result.parts?.find(({ analysis }) => analysis.results.pair)?.analysis.results.pair ?? null;
  return (
    <Table size="small" aria-label="Listeners">
      <TableHead>
        <TableRow>
          <TableCell>Listener</TableCell>
          <TableCell align="right">Answers</TableCell>
          <TableCell align="right">Seconds per trial</TableCell>
          <TableCell align="right">Hasty</TableCell>
          <TableCell align="right">Not fetched</TableCell>
          <TableCell>Devices</TableCell>
          {pairs && <TableCell align="right">Circles of three</TableCell>}
          {pairs && <TableCell align="right">Consistency ζ</TableCell>}
        </TableRow>
      </TableHead>
      <TableBody>
        {result.pace.map(({ listener, answers, medianS, hasty, unfetched, devices, sameAs }) => {
          const own = pairs?.circularTriads.find((row) => row.listener === listener);
          return (
            <TableRow key={listener}>
              <TableCell>{listener}</TableCell>
              <TableCell align="right">{answers}</TableCell>
              <TableCell align="right">{medianS.toFixed(0)}</TableCell>
              <TableCell align="right">{hasty === 0 ? '–' : `${hasty} of ${answers}`}</TableCell>
              <TableCell align="right">{unfetched || '–'}</TableCell>
              <TableCell>
                {devices || '–'}
                {sameAs && `, the browser of ${sameAs}`}
              </TableCell>
              {pairs && (
                <TableCell align="right">
                  {own ? `${own.triads} of ${own.decidedTriads}` : '–'}
                </TableCell>
              )}
              {pairs && (
                <TableCell align="right">{own?.zeta == null ? '–' : own.zeta.toFixed(2)}</TableCell>
              )}
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
  );
}

function SealAndFiles({ base, result }: { base: string; result: Result }) {
  return (
    <>
      <Typography variant="h2" sx={{ mt: 4, mb: 0.5 }}>
        Key and files
      </Typography>
      <Typography sx={{ maxWidth: '76ch' }}>
        {result.sealHolds
          ? 'The key below gives the very number that listeners were shown before they answered.'
          : 'The key below does not give the number that listeners were shown. Do not trust this result.'}{' '}
        Check it yourself: download the key and run <code>sha256sum</code> on the file.
      </Typography>
      <Box
        sx={{
          fontFamily: FACES.mono,
          fontSize: '0.8125rem',
          color: token(result.sealHolds ? 'green' : 'red'),
          my: 1,
          overflowWrap: 'anywhere',
        }}
      >
        {result.seal}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button variant="outlined" href={`${base}/files/key.json`}>
          Key (JSON)
        </Button>
        <Button variant="outlined" href={`${base}/files/answers.csv`}>
          All answers (CSV)
        </Button>
        <Button variant="outlined" href={`${base}/files/answers.json`}>
          All answers and controls (JSON)
        </Button>
        <Button variant="outlined" href={`${base}/files/analysis.json`}>
          Analysis (JSON)
        </Button>
      </Box>
      <Box component="details" sx={{ mt: 1.5 }}>
        <summary>The {result.clips.length} clips as they were sealed</summary>
        <Typography sx={{ fontSize: '0.875rem', color: token('soft'), maxWidth: '76ch', my: 0.5 }}>
          What every copy was made of, 32-bit float. The SHA-256 of each file stands in the key.
        </Typography>
        {result.clips.map(({ part, chain, sha256 }) => (
          <Box key={`${part} ${sha256}`} sx={{ fontSize: '0.875rem', py: 0.25 }}>
            Part {part}, {chain}:{' '}
            <Link href={`${base}/clips/${sha256}`} sx={{ fontFamily: FACES.mono }}>
              {sha256.slice(0, 16)}…
            </Link>
          </Box>
        ))}
      </Box>
    </>
  );
}

/** One part of several, under its own finding. */
function PartResult({ part, of, chains }: { part: ResultPart; of: number; chains: string[] }) {
  const { analysis, findings, controls, claimed } = part;
  const ends = TASKS[part.task].line?.ends ?? null;
  return (
    <Box component="section" sx={{ mt: of > 1 ? 4 : 0 }}>
      {of > 1 && (
        <>
          <Typography
            variant="h2"
            sx={{ borderTop: `1px solid ${token('rule')}`, pt: 2, fontSize: '1.25rem' }}
          >
            {findings.headline}
          </Typography>
          <Typography sx={{ color: token('soft'), mb: 1 }}>
            {part.primary ? 'The primary part' : 'Part'} {part.number} of {of}, “{part.prompt}”,{' '}
            {part.heard}.
          </Typography>
        </>
      )}
      {analysis.warnings.map(({ code, section, message }) => (
        <Note key={`${section} ${code}`} kind="caution">
          {message.charAt(0).toUpperCase() + message.slice(1)}.
        </Note>
      ))}
      {Object.entries(SECTION_VIEWS).map(([id, View]) => (
        <View
          key={id}
          {...{ results: analysis.results, chains, findings, controls, claimed, ends }}
        />
      ))}
    </Box>
  );
}

function ResultBody({ comparisonId, result }: { comparisonId: string; result: Result }) {
  const { send } = useSend();
  const { chains, parts } = result;
  const base = `/api/comparisons/${comparisonId}/sittings/${result.sittingId}`;
  if (!parts) {
    return (
      <PageHeading
        finding="The answers are being read"
        aside="The sitting is closed, the key is open; this takes a few seconds and goes on by itself."
        action={
          <Button
            variant="outlined"
            onClick={() =>
              void send(SITTINGS.close, { id: comparisonId, sittingId: result.sittingId })
            }
          >
            Read them again
          </Button>
        }
      />
    );
  }
  if (result.answers === 0) {
    return (
      <>
        <PageHeading finding="Nobody answered" aside="The sitting was closed without an answer." />
        <SealAndFiles base={base} result={result} />
      </>
    );
  }
  const primary = parts.find((part) => part.primary);
  const leading = primary ?? parts.find(({ analysis }) => analysis.results.pair) ?? parts[0]!;
  const among = `Part ${leading.number} of ${parts.length}${primary ? ', the primary one' : ''}:`;
  const asked = `${parts.length > 1 ? among : 'Asked:'} “${leading.prompt}”`;
  return (
    <>
      <PageHeading
        finding={leading.findings.headline}
        aside={`${leading.findings.detail || `${leading.heard}.`} ${asked} Closed ${day(result.closedAt)}.`}
      />
      {result.simulated && (
        <Note kind="caution">
          The listeners of this sitting are simulated; nobody heard anything.
        </Note>
      )}
      {result.sealBroken && (
        <Note kind="caution">
          The seal was broken before closing, {day(result.sealBroken.at)}: “
          {result.sealBroken.reason}”. Whoever looked could have led the rest.
        </Note>
      )}
      {result.sealedReading !== null && (
        <Note kind="caution">
          This sitting was sealed under version {result.sealedReading} of the analysis and is read
          by version {ANALYSIS_PLAN.version}; the methods tell what changed. The plan that was
          sealed stands in the key.
        </Note>
      )}
      {!primary && parts.length > 1 && (
        <Note kind="caution">
          This sitting was sealed without a primary part, so each part is read by itself at 5 %: of{' '}
          {parts.length} parts in which nothing differs, {percent(1 - (1 - ALPHA) ** parts.length)}{' '}
          of such sittings would claim something all the same.
        </Note>
      )}
      {result.namedListening.map(({ name, at }) => (
        <Note key={name} kind="caution">
          {name} listened by name during the sitting, first {day(at)}. Whoever did could recognise
          what the panel heard blind.
        </Note>
      ))}
      {parts.map((part) => (
        <PartResult key={part.number} part={part} of={parts.length} chains={chains} />
      ))}
      <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
        Who was consistent
      </Typography>
      <ListenerTable result={result} />
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mt: 1, maxWidth: '76ch' }}>
        Hasty: by the bank’s own clock answered in less time than half as long again as hearing each
        recording for the least that is asked; counted all the same. Not fetched: answers before
        which some recording was never sent to that listener; counted all the same. A circle of
        three: A over B, B over C, but C over A. ζ is 1 without any, 0 with as many as there can be;
        it is left open where a listener had no preference in some pair.
      </Typography>
      <SealAndFiles base={base} result={result} />
    </>
  );
}

export function ResultsScreen({ view }: { view: ResultsView }) {
  const router = useRouter();
  const { comparison, sittings, result } = view;
  const closed = sittings.filter(({ state }) => state === 'closed');
  if (!result) {
    const open = sittings.some(({ state }) => state === 'open');
    return (
      <>
        <PageHeading
          finding={open ? 'The key is shut' : 'There is nothing to read yet'}
          aside={
            open
              ? 'Results open when you close the sitting. Peeking, and stopping when it looks good, makes any result worthless.'
              : 'Results come from a sitting that was sealed, answered and closed.'
          }
        />
        <Link component={NextLink} href={`/comparisons/${comparison.id}/sitting`}>
          Go to the sitting
        </Link>
      </>
    );
  }
  return (
    <>
      {closed.length > 1 && (
        <TextField
          select
          label="Sitting"
          value={result.sittingId}
          onChange={({ target }) =>
            router.push(`/comparisons/${comparison.id}/results?sitting=${target.value}`)
          }
          sx={{ maxWidth: 420, mb: 2 }}
        >
          {closed.map(({ id, title, closedAt }) => (
            <MenuItem key={id} value={id}>
              {title}, closed {closedAt ? day(closedAt) : ''}
            </MenuItem>
          ))}
        </TextField>
      )}
      <ResultBody key={result.sittingId} comparisonId={comparison.id} result={result} />
    </>
  );
}
