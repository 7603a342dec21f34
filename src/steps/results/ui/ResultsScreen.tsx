'use client';

import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { headlineOf } from '@/steps/results/headline';
import { exploratoryText } from '@/steps/results/exploratory';
import type { Result, ResultsView } from '@/steps/results/service';
import { day } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { Note, PageHeading } from '@/ui/Sheet';
import { useSend } from '@/ui/useSend';
import { FirstView } from './FirstView';
import { FoldedPieces } from './FoldedPieces';
import { FOLDS } from './folds';
import { SealAndFiles } from './folds/files';
import type { FoldProps } from './folds/fold';
import { useFolds } from './useFolds';

/** The evidence behind the first view. */
function Evidence(props: FoldProps) {
  const pieces = FOLDS.flatMap(({ id, title, View }) => {
    const named = title(props);
    return named === null ? [] : [{ id, title: named, body: () => <View {...props} /> }];
  });
  return <FoldedPieces pieces={pieces} folds={props.folds} />;
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
      {result.exploratory && <Note kind="caution">{exploratoryText(result.exploratory)}</Note>}
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
