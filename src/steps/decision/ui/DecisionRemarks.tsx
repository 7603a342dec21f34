'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import { useRouter } from 'next/navigation';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { DECISIONS } from '@/steps/decision/endpoints';
import type { DecisionView } from '@/steps/decision/service';
import { TAKES } from '@/steps/takes/endpoints';
import { date, money } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { MarginNote } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { forecastText } from './words';

function GoOn({ view }: { view: DecisionView }) {
  const { send, busy } = useSend();
  const { sitting, forecast, comparison } = view;
  if (!sitting) return null;
  const ids = { id: comparison.id, sittingId: sitting.sittingId };
  return (
    <MarginNote title="Go on testing?">
      {forecast === 'working' ? (
        'It is being worked out from the panel’s own scatter.'
      ) : forecast === null ? (
        <>
          Would more listeners change this choice? The panel’s own scatter can tell.
          <Box sx={{ mt: 0.5 }}>
            <Button
              size="small"
              variant="outlined"
              disabled={busy}
              onClick={() => void send(DECISIONS.forecast, ids)}
            >
              Work it out
            </Button>
          </Box>
        </>
      ) : (
        <>
          {forecastText(forecast).map((text) => (
            <Box key={text} sx={{ mb: 0.5 }}>
              {text}
            </Box>
          ))}
          {Array.isArray(forecast) && (
            <Box sx={{ color: token('soft') }}>
              The choice: the cheapest chain left that may be the best. By listeners like these, at
              the pace of these.
            </Box>
          )}
        </>
      )}
    </MarginNote>
  );
}

function ListenAgain({ view }: { view: DecisionView }) {
  const { send, busy } = useSend();
  const router = useRouter();
  const { comparison, locked } = view;
  const day = locked[0]?.record.listenAgain;
  if (!day) return null;
  const follow = async (copy: typeof COMPARISONS.copy | typeof TAKES.copyWhole) => {
    const made = await send(copy, { id: comparison.id });
    if (made) router.push(`/comparisons/${made.id}/question`);
  };
  return (
    <MarginNote title="Listen again">
      {date(day)}{' '}
      <Link underline="always" href={`/api/comparisons/${comparison.id}/decision/listen-again.ics`}>
        to the calendar
      </Link>
      <Box sx={{ mt: 0.5 }}>
        <Button
          size="small"
          variant="outlined"
          disabled={busy}
          onClick={() => void follow(COMPARISONS.copy)}
        >
          Begin the follow-up
        </Button>
        <Button size="small" disabled={busy} onClick={() => void follow(TAKES.copyWhole)}>
          With these takes
        </Button>
      </Box>
      <Box sx={{ color: token('soft') }}>
        The same question and chains, in a comparison of its own: with new takes or with these, and
        nothing of the first result in sight.
      </Box>
    </MarginNote>
  );
}

/** What the margin says beside a decision. */
export function DecisionRemarks({ view }: { view: DecisionView }) {
  const { comparison, markCounts, weighed, sitting } = view;
  const { budgetCents, mustHaves } = comparison.brief;
  return (
    <>
      {(budgetCents !== null || mustHaves.length > 0) && (
        <MarginNote title="Asked of them">
          {budgetCents !== null && <Box>To buy: at most {money(budgetCents)}</Box>}
          {mustHaves.map((text) => (
            <Box key={text}>Must: {text}</Box>
          ))}
        </MarginNote>
      )}
      <MarginNote title="Heard, and seen">
        Blind evidence on the left, what was given with open eyes on the right. They are never added
        up unless you ask.
        {sitting?.simulated && (
          <Box sx={{ color: token('ochre') }}>The listeners are simulated; nobody heard it.</Box>
        )}
      </MarginNote>
      {markCounts.given > 0 && (
        <MarginNote title="Marks after the reveal">
          {markCounts.after} of {markCounts.given}
          {markCounts.after > 0 && (
            <>
              , shown with{' '}
              <Box component="span" sx={{ color: token('ochre') }}>
                °
              </Box>
            </>
          )}
          {markCounts.unknown > 0 && `; of ${markCounts.unknown} the gear list tells no day`}.
        </MarginNote>
      )}
      {weighed.version > 0 && (
        <MarginNote title="Weighed">
          {weighed.at && date(weighed.at)}
          {weighed.afterReveal && (
            <Box component="span" sx={{ color: token('ochre') }}>
              , after the reveal
            </Box>
          )}
          .
        </MarginNote>
      )}
      <GoOn view={view} />
      <ListenAgain view={view} />
      {sitting && (
        <MarginNote title="Rests on">
          <Link
            underline="always"
            component={NextLink}
            href={`/comparisons/${comparison.id}/results?sitting=${sitting.sittingId}`}
          >
            {sitting.title}
          </Link>
          , closed {date(sitting.closedAt)}.
        </MarginNote>
      )}
    </>
  );
}
