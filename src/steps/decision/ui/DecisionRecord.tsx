import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { LockedVersion } from '@/steps/decision/service';
import { date } from '@/ui/format';
import { Note } from '@/ui/Sheet';
import { FACES, token } from '@/ui/tokens';

/** One version of a decision as it was locked. */
export function DecisionRecord({
  version: { record, at, sha256, holds },
}: {
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
              ({rests})
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
