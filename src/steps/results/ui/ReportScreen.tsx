'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import GlobalStyles from '@mui/material/GlobalStyles';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { TASKS } from '@/core/tasks';
import { PAPERS } from '@/platform/paper';
import type { Comparison } from '@/steps/comparisons/schema';
import { countWord, date, money } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { Note } from '@/ui/Sheet';
import { FACES, token } from '@/ui/tokens';
import type { Across } from '../across';
import { heardIn, sealedWords } from '../given-as';
import { exploratoryText } from '@/steps/results/exploratory';
import type { Result, ResultPart } from '../service';
import { FirstView } from './FirstView';
import { FOLDS } from './folds';
import type { FoldProps } from './folds/fold';
import { headlineOf } from '../headline';

/** What fits between the margins of A4 and of letter paper. */
const PAGE_WIDTH = '17.2cm';
/** Told on the first page, or of no use on paper. */
const NOT_REPEATED: readonly string[] = ['limits', 'files'];

/** Pages of either size: margins, numbers, and breaks that leave rows and pictures whole. */
const PRINT = {
  '@page': {
    margin: '18mm 18mm 20mm',
    '@bottom-right': {
      content: 'counter(page) " / " counter(pages)',
      fontFamily: FACES.mono,
      fontSize: '9pt',
    },
  },
  '@media print': {
    'html, body': { background: '#fff' },
    'tr, figure, dl, h2': { breakInside: 'avoid' },
    'h2, h3': { breakAfter: 'avoid' },
    thead: { display: 'table-header-group' },
    'p, dd': { orphans: 3, widows: 3 },
    // Tables are as wide as the paper, whatever they hold; what can only be clicked is left out.
    'main .MuiTableCell-root': { fontSize: '8pt', lineHeight: 1.25, padding: '2px 5px' },
    'main, main section, main div': { overflow: 'visible' },
    'main .MuiButton-root, main .MuiButtonBase-root svg': { display: 'none' },
    'main h1': { fontSize: '17pt' },
    'main h2': { fontSize: '12pt' },
    'main p.MuiTypography-root, main li, main dt, main dd': { fontSize: '9.5pt', lineHeight: 1.35 },
  },
} as const;

function Section({
  title,
  own = false,
  children,
}: {
  title: string;
  own?: boolean;
  children: ReactNode;
}) {
  return (
    <Box component="section" sx={{ mt: 3, ...(own && { breakBefore: 'page' }) }}>
      <Typography variant="h2" sx={{ borderTop: `1px solid ${token('rule')}`, pt: 1, mb: 0.75 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

/** Who listened to what, under which conditions. */
function Conditions({ result, parts }: { result: Result; parts: readonly ResultPart[] }) {
  const { made } = result;
  return (
    <>
      <Typography>
        {countWord(result.listeners, 'listener')}, {result.answers.toLocaleString('en-GB')} answers,{' '}
        {heardIn(result)}; blind under code words, closed {date(result.closedAt)}.
      </Typography>
      <Box component="ul" sx={{ my: 0.75, pl: 2.5 }}>
        {made.map(({ chain, microphone, preamp, price }) => (
          <li key={chain}>
            <b>{chain}</b>
            {(microphone || preamp) && `: ${[microphone, preamp].filter(Boolean).join(', ')}`}
            {price !== null && `, ${money(price)}`}
          </li>
        ))}
      </Box>
      <Box component="ol" sx={{ my: 0.75, pl: 2.5 }}>
        {parts.map(({ number, task, prompt, heard, primary }) => (
          <li key={number}>
            {TASKS[task].name.replace(/\?$/, '')}: “{prompt}” {heard}
            {primary && ' (the primary part)'}
          </li>
        ))}
      </Box>
    </>
  );
}

function Seal({ result }: { result: Result }) {
  return (
    <>
      <Typography>{sealedWords(result)}</Typography>
      <Box
        sx={{ fontFamily: FACES.mono, fontSize: '0.8125rem', my: 0.5, overflowWrap: 'anywhere' }}
      >
        {result.seal}
      </Box>
      <Typography>
        {result.sealHolds
          ? 'It holds. To check it, take the key from the results page and run sha256sum on the file: the same number comes out. The key names the chain behind every code word.'
          : 'It does not hold: the key was changed after it was shown. Do not trust this result.'}
      </Typography>
      {result.fromPack?.keyOutAt && (
        <Typography sx={{ mt: 0.5 }}>
          The key was handed out {date(result.fromPack.keyOutAt)}, before the answers came in.
        </Typography>
      )}
      {result.exploratory && (
        <Typography sx={{ mt: 0.5 }}>{exploratoryText(result.exploratory)}</Typography>
      )}
      {result.sealBroken && (
        <Typography sx={{ mt: 0.5 }}>
          The seal was broken before closing, {date(result.sealBroken.at)}: “
          {result.sealBroken.reason}”.
        </Typography>
      )}
      {result.namedListening.map(({ name, at }) => (
        <Typography key={name} sx={{ mt: 0.5 }}>
          {name} listened by name while the sitting was open, first {date(at)}.
        </Typography>
      ))}
    </>
  );
}

/** A sitting's results as one document: its first page stands alone, the evidence and the methods follow. */
export function ReportScreen({
  comparison,
  result,
  parts,
  across,
  decision,
  printable,
}: {
  comparison: Pick<Comparison, 'id' | 'title' | 'question'>;
  result: Result;
  parts: ResultPart[];
  across: Across;
  /** What was decided on it, which then comes first; null where nothing was. */
  decision: ReactNode;
  /** Whether the bank's machine can print it. */
  printable: boolean;
}) {
  // On paper everything is open, and nothing can be toggled.
  const props: FoldProps = {
    comparisonId: comparison.id,
    result,
    parts,
    across,
    folds: { isOpen: () => true, toggle: () => undefined },
  };
  const evidence = FOLDS.flatMap(({ id, title, View }) => {
    const named = NOT_REPEATED.includes(id) ? null : title(props);
    return named === null ? [] : [{ id, title: named, View }];
  });
  const limits = FOLDS.find(({ id }) => id === 'limits');
  return (
    <Box
      component="main"
      sx={{
        maxWidth: PAGE_WIDTH,
        mx: 'auto',
        my: 4,
        px: { xs: 2, sm: 0 },
        fontSize: '0.9375rem',
        '@media print': { my: 0, maxWidth: 'none' },
      }}
    >
      <GlobalStyles styles={PRINT} />
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mb: 3, displayPrint: 'none' }}>
        <Button variant="contained" onClick={() => window.print()}>
          Print
        </Button>
        {printable &&
          PAPERS.map((paper) => (
            <Button
              key={paper}
              component="a"
              download
              href={`/api/comparisons/${comparison.id}/sittings/${result.sittingId}/report?paper=${paper}`}
            >
              Save as PDF, {paper === 'A4' ? 'A4' : 'US letter'}
            </Button>
          ))}
        <Link
          component={NextLink}
          href={`/comparisons/${comparison.id}/results?sitting=${result.sittingId}`}
        >
          Back to the results
        </Link>
      </Box>
      {decision && (
        <Box component="section" sx={{ mb: 4, breakAfter: 'page' }}>
          <Typography sx={{ color: token('soft') }}>{comparison.title}</Typography>
          <Typography variant="h1" sx={{ mb: 1 }}>
            The decision
          </Typography>
          {decision}
        </Box>
      )}
      <Typography sx={{ color: token('soft') }}>
        {comparison.title} · {result.title} · {date(result.closedAt)}
      </Typography>
      <Typography variant="h1" sx={{ mb: 1 }}>
        {headlineOf(parts)}
      </Typography>
      {comparison.question && <Typography sx={{ mb: 1 }}>{comparison.question}</Typography>}
      {result.simulated && (
        <Note kind="caution">
          The listeners of this sitting are simulated; nobody heard anything.
        </Note>
      )}
      <FirstView across={across} chains={result.chains} />
      {limits && (
        <Section title="What this does not show">
          <limits.View {...props} />
        </Section>
      )}
      <Section title="Seal">
        <Seal result={result} />
      </Section>
      <Section title="Who heard what">
        <Conditions result={result} parts={parts} />
      </Section>
      {evidence.map(({ id, title, View }) => (
        <Section key={id} title={title}>
          <View {...props} />
        </Section>
      ))}
      <Section
        title={result.fromPack || result.fromFile ? 'Methods' : 'Methods, as they were sealed'}
        own
      >
        <Typography>{result.analysisPlan}</Typography>
        <Typography sx={{ mt: 1 }}>
          p is how often a result at least as clear would come about if nothing differed; under 5 %
          it is called shown. An interval of 95 % holds the true value in 19 of 20 such panels. The
          listener is the unit: ten answers of one listener are no ten listeners. Loudness after
          ITU-R BS.1770. The answers as CSV, and all figures as JSON, are on the results page.
        </Typography>
      </Section>
    </Box>
  );
}
