'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { LockedVersion } from '@/steps/decision/service';
import { date } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { Note } from '@/ui/Sheet';
import { FACES, token } from '@/ui/tokens';

type Rests = LockedVersion['record']['reasons'][number]['rests'];

/** Where that on which a reason rests is looked at; null for what nobody wrote down. */
function groundAddress(rests: Rests, comparisonId: string, sittingId?: string): string | null {
  const page = `/comparisons/${comparisonId}`;
  switch (rests) {
    case 'heard':
      return `${page}/results${sittingId ? `?sitting=${sittingId}` : ''}`;
    case 'marks':
    case 'must-haves':
      return `${page}/decision?open=${rests}`;
    case 'cost':
      return `${page}/chains`;
    case 'by ear alone':
      return null;
  }
}

function Ground({
  rests,
  comparisonId,
  sittingId,
}: {
  rests: Rests;
  comparisonId: string;
  sittingId: string | undefined;
}) {
  const address = groundAddress(rests, comparisonId, sittingId);
  return address === null ? (
    rests
  ) : (
    <Link component={NextLink} href={address} underline="always">
      {rests}
    </Link>
  );
}

/** One version of a decision as it was locked. */
export function DecisionRecord({
  comparisonId,
  version: { record, at, sha256, holds },
}: {
  comparisonId: string;
  version: LockedVersion;
}) {
  const { sitting } = record.evidence;
  return (
    <Box sx={{ maxWidth: '80ch' }}>
      {!holds && (
        <Note kind="problem">This text was changed after it was locked; do not rely on it.</Note>
      )}
      <Box component="ul" sx={{ my: 0.75, pl: 2.5 }}>
        {record.uses.map(({ use, verdict, chain }) => (
          <li key={`${use} ${verdict} ${chain}`}>
            <b>{use}</b>: {chain && `${chain}, `}
            {verdict}.
          </li>
        ))}
      </Box>
      <Box component="ol" sx={{ my: 0.75, pl: 2.5 }}>
        {record.reasons.map(({ text, rests }) => (
          <li key={text}>
            {text}{' '}
            <Box component="span" sx={{ color: token('soft') }}>
              (<Ground rests={rests} comparisonId={comparisonId} sittingId={sitting?.id} />)
            </Box>
          </li>
        ))}
      </Box>
      {record.wouldChange && <Typography>What would change it: {record.wouldChange}</Typography>}
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mt: 0.75 }}>
        Version {record.version}, decided by {record.decidedBy}, locked {date(at)} by {record.by}.
        {record.listenAgain && ` Listen again on ${date(record.listenAgain)}.`}
        {sitting
          ? ` It rests on “${sitting.title}”, closed ${date(sitting.closedAt)}${sitting.simulated ? ', with simulated listeners' : ''}.`
          : ' Nothing was heard blind for it.'}
      </Typography>
      {sitting?.sealBroken && (
        <Note kind="caution">
          The seal of that sitting was broken before closing: “{sitting.sealBroken}”.
        </Note>
      )}
      <Box
        sx={{
          fontFamily: FACES.mono,
          fontSize: '0.75rem',
          color: token('soft'),
          overflowWrap: 'anywhere',
        }}
      >
        {sha256}
      </Box>
    </Box>
  );
}
