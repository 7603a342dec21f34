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
import dynamic from 'next/dynamic';
import NextLink from 'next/link';
import { useRouter } from 'next/navigation';
import { useCallback, useMemo } from 'react';
import type { PairAnalysis } from '@/core/statistics/pair/analyze';
import { pText } from '@/core/statistics/pair/findings';
import type { Result, ResultPart, ResultsView } from '@/steps/results/service';
import { day } from '@/ui/format';
import { Note, PageHeading } from '@/ui/Sheet';
import { CHAIN_COLOURS, FACES, token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { AudibilityTable, MemoryNote, RatingTable, WordTable } from './PartTables';

const StrengthChart = dynamic(() => import('./StrengthChart'), {
  ssr: false,
  loading: () => <Box sx={{ height: 320 }} />,
});

// Outlines of further marks, in the chart's path notation.
const HEXAGON = 'path://M5 0 L10 2.5 L10 7.5 L5 10 L0 7.5 L0 2.5 Z';
const CROSS = 'path://M3 0 H7 V3 H10 V7 H7 V10 H3 V7 H0 V3 H3 Z';
const STAR = 'path://M5 0 L6.5 3.5 L10 5 L6.5 6.5 L5 10 L3.5 6.5 L0 5 L3.5 3.5 Z';
const NARROW = 'path://M3 0 H7 V10 H3 Z';
const SYMBOLS = ['circle', 'rect', 'triangle', 'diamond', HEXAGON, CROSS, STAR, NARROW];

function PairTable({ analysis }: { analysis: PairAnalysis }) {
  return (
    <Table size="small" aria-label="Pairs">
      <TableHead>
        <TableRow>
          <TableCell>Pair</TableCell>
          <TableCell align="right">Choices</TableCell>
          <TableCell align="right">Level</TableCell>
          <TableCell align="right">Listeners for each</TableCell>
          <TableCell align="right">p, Holm</TableCell>
          <TableCell>In words</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {analysis.pairs.map((row) => {
          const told = row.pListenerHolm < 0.05;
          const better = row.aWins > row.bWins ? row.a : row.b;
          return (
            <TableRow key={`${row.a} ${row.b}`}>
              <TableCell>
                {row.a} <span style={{ color: token('soft') }}>against</span> {row.b}
              </TableCell>
              <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                {row.aWins} : {row.bWins}
              </TableCell>
              <TableCell align="right">{row.ties}</TableCell>
              <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                {row.listenersA} : {row.listenersB}
              </TableCell>
              <TableCell align="right">{row.pListenerHolm.toFixed(3)}</TableCell>
              <TableCell sx={{ color: told ? token('ink') : token('soft') }}>
                {told ? `${better} is preferred` : 'no preference shown'}
              </TableCell>
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
  );
}

function ListenerTable({ result }: { result: Result }) {
  const pairs = result.parts?.find(({ analysis }) => analysis.pair)?.analysis.pair ?? null;
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

/** Pairs at length: strengths, remarks, limits, head to head. */
function PairResult({
  part,
  analysis,
  chains,
}: {
  part: ResultPart;
  analysis: PairAnalysis;
  chains: string[];
}) {
  const { findings } = part;
  const rows = useMemo(
    () =>
      analysis.overall
        .filter(({ logStrength }) => logStrength !== null)
        .sort((x, y) => (y.logStrength ?? 0) - (x.logStrength ?? 0)),
    [analysis],
  );
  const markOf = useCallback(
    (chain: string) => {
      const i = Math.max(0, chains.indexOf(chain));
      return {
        colour: CHAIN_COLOURS[i % CHAIN_COLOURS.length],
        symbol: SYMBOLS[i % SYMBOLS.length],
      };
    },
    [chains],
  );
  return (
    <>
      {rows.length > 0 && (
        <Box component="figure" sx={{ m: 0, maxWidth: 860 }}>
          <StrengthChart rows={rows} markOf={markOf} />
        </Box>
      )}
      {part.analysis.warnings.map(({ code, message }) => (
        <Note key={code} kind="caution">
          {message.charAt(0).toUpperCase() + message.slice(1)}.
        </Note>
      ))}
      {findings && (
        <Box sx={{ display: 'grid', gridTemplateColumns: { md: '1fr 1fr' }, gap: 4, mt: 2 }}>
          <Box>
            <Typography variant="h2">Also seen</Typography>
            {findings.remarks.map((remark) => (
              <Typography key={remark} sx={{ mt: 0.75 }}>
                {remark}
              </Typography>
            ))}
            {findings.unsure.length > 0 && (
              <Typography sx={{ mt: 0.75 }}>
                No preference shown here:{' '}
                {findings.unsure
                  .slice(0, 3)
                  .map(({ text }) => text)
                  .join('; ')}
                {findings.unsure.length > 3 ? `; and ${findings.unsure.length - 3} more pairs` : ''}
                .
              </Typography>
            )}
          </Box>
          <Box>
            <Typography variant="h2">What this does not show</Typography>
            {findings.limits.map((limit) => (
              <Typography key={limit} sx={{ mt: 0.75 }}>
                {limit}
              </Typography>
            ))}
          </Box>
        </Box>
      )}
      <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
        Head to head
      </Typography>
      <PairTable analysis={analysis} />
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mt: 1, maxWidth: '76ch' }}>
        Exact sign test over listeners for each pair, corrected for {analysis.pairs.length} pairs
        (Holm).
        {analysis.panelTest &&
          ` That no chain differs at all: ${pText(analysis.panelTest.p)}, with the listener as the unit.`}
      </Typography>
    </>
  );
}

/** One part of several, under its own finding. */
function PartResult({ part, of, chains }: { part: ResultPart; of: number; chains: string[] }) {
  const { analysis } = part;
  return (
    <Box component="section" sx={{ mt: of > 1 ? 4 : 0 }}>
      {of > 1 && (
        <>
          <Typography
            variant="h2"
            sx={{ borderTop: `1px solid ${token('rule')}`, pt: 2, fontSize: '1.25rem' }}
          >
            {part.finding}
          </Typography>
          <Typography sx={{ color: token('soft'), mb: 1 }}>
            Part {part.number} of {of}, “{part.prompt}”, {part.heard}.
          </Typography>
        </>
      )}
      {analysis.pair && <PairResult part={part} analysis={analysis.pair} chains={chains} />}
      {analysis.audibility.length > 0 && <AudibilityTable rows={analysis.audibility} />}
      {analysis.ratings && (
        <RatingTable ratings={analysis.ratings} against={part.task === 'reference'} />
      )}
      {analysis.memory && <MemoryNote memory={analysis.memory} />}
      {analysis.words.length > 0 && <WordTable words={analysis.words} />}
      {analysis.controls.length > 0 && (
        <Box sx={{ mt: 2 }}>
          <Typography sx={{ fontWeight: 600 }}>Controls</Typography>
          {analysis.controls.map((sentence) => (
            <Typography key={sentence} sx={{ mt: 0.5, maxWidth: '86ch' }}>
              {sentence}
            </Typography>
          ))}
        </Box>
      )}
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
          <Button variant="outlined" onClick={() => void send('POST', `${base}/close`)}>
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
  const leading = parts.find(({ findings }) => findings) ?? parts[0];
  const asked = parts.length > 1 ? `${parts.length} parts.` : `Asked: “${leading.prompt}”`;
  return (
    <>
      <PageHeading
        finding={leading.finding}
        aside={`${leading.findings?.detail ?? leading.heard + '.'} ${asked} Closed ${day(result.closedAt)}.`}
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
