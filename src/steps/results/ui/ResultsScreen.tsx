'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import { SITTINGS } from '@/steps/sitting/endpoints';
import type { Result, ResultPart, ResultsView } from '@/steps/results/service';
import { day } from '@/ui/format';
import { Note, PageHeading } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { DisclosureButton } from './Disclosure';
import { FirstView } from './FirstView';
import { FOLDS } from './folds';
import { SealAndFiles } from './folds/files';
import type { FoldProps } from './folds/fold';
import { useFolds } from './useFolds';

/** The evidence behind the first view; what is open stands below in its order. */
function Evidence(props: FoldProps) {
  const { folds } = props;
  const there = FOLDS.flatMap(({ id, title, View }) => {
    const named = title(props);
    return named === null ? [] : [{ id, title: named, View }];
  });
  return (
    <>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 2.5, mt: 1 }}>
        {there.map(({ id, title }) => (
          <DisclosureButton
            key={id}
            id={id}
            open={folds.isOpen(id)}
            onToggle={() => folds.toggle(id)}
          >
            {title}
          </DisclosureButton>
        ))}
      </Box>
      {there.map(({ id, title, View }) =>
        folds.isOpen(id) ? (
          <Box
            key={id}
            id={id}
            component="section"
            sx={{ borderTop: `1px solid ${token('rule')}`, mt: 2, pt: 1.5 }}
          >
            <Typography variant="h2" sx={{ mb: 1 }}>
              {title}
            </Typography>
            <View {...props} />
          </Box>
        ) : null,
      )}
    </>
  );
}

/** The primary part's finding heads the page; in sittings of before, that of the first pairs. */
export function headlineOf(parts: readonly ResultPart[]): string {
  const leading =
    parts.find(({ primary }) => primary) ??
    parts.find(({ analysis }) => analysis.results.pair) ??
    parts[0]!;
  return leading.findings.headline;
}

function ResultBody({ comparisonId, result }: { comparisonId: string; result: Result }) {
  const { send } = useSend();
  const folds = useFolds();
  const { chains, parts, across } = result;
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
  if (!across) {
    return (
      <>
        <PageHeading finding="Nobody answered" aside="The sitting was closed without an answer." />
        <SealAndFiles comparisonId={comparisonId} result={result} />
      </>
    );
  }
  return (
    <>
      <PageHeading
        finding={headlineOf(parts)}
        action={
          <Button
            component={NextLink}
            variant="outlined"
            href={`/comparisons/${comparisonId}/report?sitting=${result.sittingId}`}
          >
            Report
          </Button>
        }
      />
      {!result.sealHolds && (
        <Note kind="problem">
          The key does not give the number that listeners were shown. Do not trust this result.
        </Note>
      )}
      {result.sealBroken && (
        <Note kind="caution">
          The seal was broken before closing, {day(result.sealBroken.at)}: “
          {result.sealBroken.reason}”.
        </Note>
      )}
      <FirstView across={across} chains={chains} />
      <Evidence {...{ comparisonId, result, parts, across, folds }} />
    </>
  );
}

export function ResultsScreen({ view }: { view: ResultsView }) {
  const { comparison, sittings, result } = view;
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
  return <ResultBody key={result.sittingId} comparisonId={comparison.id} result={result} />;
}
