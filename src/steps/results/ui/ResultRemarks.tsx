'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useRouter } from 'next/navigation';
import { ANALYSIS_PLAN } from '@/core/statistics/analysis-plan';
import { ALPHA, percent } from '@/core/statistics/words';
import type { Result, ResultsView } from '@/steps/results/service';
import { countWord, day } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { MarginNote } from '@/ui/Sheet';
import { FACES, token, type TokenName } from '@/ui/tokens';
import { saidOf } from './folds/predictions';

const OUTCOME: Record<'right' | 'wrong' | 'open', TokenName> = {
  right: 'green',
  wrong: 'red',
  open: 'ochre',
};

function LookedAtEarly({ result }: { result: Result }) {
  const { sealBroken, namedListening, fromPack, fromFile } = result;
  if (fromFile) return 'Nobody here can tell.';
  if (fromPack) {
    return fromPack.keyOutAt ? (
      <Box sx={{ color: token('ochre') }}>
        The key was handed out {day(fromPack.keyOutAt)}, before these answers came in: whoever had
        it was not blind.
      </Box>
    ) : (
      'The key stayed shut until the answers came in.'
    );
  }
  if (!sealBroken && namedListening.length === 0) return 'By nobody.';
  return (
    <Box sx={{ color: token('ochre') }}>
      {sealBroken && (
        <Box>
          The seal was broken {day(sealBroken.at)}: “{sealBroken.reason}”. Whoever looked could have
          led the rest.
        </Box>
      )}
      {namedListening.map(({ name, at }) => (
        <Box key={name}>
          {name} listened by name, first {day(at)}, and could recognise what the panel heard blind.
        </Box>
      ))}
    </Box>
  );
}

/** Which of several closed sittings is read. */
function SittingChoice({ view, chosen }: { view: ResultsView; chosen: string }) {
  const router = useRouter();
  const closed = view.sittings.filter(({ state }) => state === 'closed');
  if (closed.length < 2) return null;
  return (
    <>
      <TextField
        select
        fullWidth
        label="Sitting"
        value={chosen}
        onChange={({ target }) =>
          router.push(`/comparisons/${view.comparison.id}/results?sitting=${target.value}`)
        }
        sx={{ mb: 1 }}
      >
        {closed.map(({ id, title, closedAt }) => (
          <MenuItem key={id} value={id}>
            {title}, closed {closedAt ? day(closedAt) : ''}
          </MenuItem>
        ))}
      </TextField>
      <Box sx={{ mb: 2 }}>
        <Link component={NextLink} href={`/comparisons/${view.comparison.id}/together`}>
          Read sittings together
        </Link>
      </Box>
    </>
  );
}

function sealedTitle({ fromPack, fromFile }: Result): string {
  if (fromFile) return 'From another program';
  return fromPack ? 'Sealed before the pack left' : 'Sealed before anyone listened';
}

/** What the margin says beside results: who answered, what was sealed, whether somebody looked. */
export function ResultRemarks({ view, result }: { view: ResultsView; result: Result }) {
  const { across, parts, seal, sealHolds, sealedReading, fromPack, fromFile } = result;
  const predictions = (across?.answers.predictions ?? []).filter(({ role }) => role === 'engineer');
  const primary = parts?.some((part) => part.primary) ?? true;
  const files = `/comparisons/${view.comparison.id}/results?sitting=${result.sittingId}&open=files`;
  return (
    <>
      <SittingChoice view={view} chosen={result.sittingId} />
      <MarginNote title={result.title}>
        {countWord(result.listeners, 'listener')}, {result.answers.toLocaleString('en-GB')} answers,
        closed {day(result.closedAt)}.
        {result.simulated && (
          <Box sx={{ color: token('ochre') }}>
            The listeners are simulated; nobody heard anything.
          </Box>
        )}
      </MarginNote>
      <MarginNote title={sealedTitle(result)}>
        {fromFile && (
          <Box sx={{ color: token('ochre') }}>
            Brought in from “{fromFile.file}”: nothing was sealed here before anyone listened.
          </Box>
        )}
        {fromPack && 'Which word is which clip, no plan: '}
        {fromFile && 'As it was brought in: '}
        {!fromPack &&
          !fromFile &&
          (across?.question ? 'Question, plan and key: ' : 'Plan and key, not the question: ')}
        <Box component="span" sx={{ color: token(sealHolds ? 'green' : 'red'), fontWeight: 600 }}>
          {sealHolds ? 'the seal holds' : 'the seal does not hold'}
        </Box>
        .{fromPack && ` The pack was made ${day(fromPack.madeAt)}.`}
        <Box sx={{ fontFamily: FACES.mono }}>
          {seal.slice(0, 4)} {seal.slice(4, 8)} {seal.slice(8, 12)} …
        </Box>
        <Link component={NextLink} href={files}>
          Check it
        </Link>
        {sealedReading !== null && (
          <Box sx={{ color: token('ochre') }}>
            Under version {sealedReading} of the analysis; it is read by version{' '}
            {ANALYSIS_PLAN.version}. The methods tell what changed.
          </Box>
        )}
        {parts && parts.length > 1 && !primary && (
          <Box sx={{ color: token('ochre') }}>
            Without a primary part, so each part is read by itself at 5 %: of {parts.length} parts
            in which nothing differs, {percent(1 - (1 - ALPHA) ** parts.length)} of such sittings
            would claim something all the same.
          </Box>
        )}
      </MarginNote>
      <MarginNote title="Looked at early">
        <LookedAtEarly result={result} />
      </MarginNote>
      {predictions.length > 0 && (
        <MarginNote title={`${predictions[0]!.by} predicted`}>
          {predictions.map((entry) => (
            <Box key={`${entry.by} ${entry.about}`}>
              {saidOf(entry).replace(/\.$/, '')}:{' '}
              <Box component="span" sx={{ color: token(OUTCOME[entry.outcome]) }}>
                {entry.outcome}
              </Box>
              .
            </Box>
          ))}
        </MarginNote>
      )}
    </>
  );
}
