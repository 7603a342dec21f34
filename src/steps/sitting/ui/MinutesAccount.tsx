'use client';

import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { pairTrialSeconds, SETTLING_S } from '@/core/design/time-budget';
import type { SittingAccount, SittingCounts, SittingDraft } from '@/steps/sitting/schema';
import { token } from '@/ui/tokens';

/** What the answers can tell, in a sentence; and what they cannot. */
function certaintyText({
  judgementsPerPair,
  detectableShare,
  neededFor70,
  pairs,
}: SittingAccount): string {
  const per = Math.floor(judgementsPerPair);
  const each = pairs === 1 ? 'the pair' : `each of ${pairs} pairs`;
  if (per === 0)
    return `Fewer than one judgement for ${each}: this can tell nothing of single pairs.`;
  if (detectableShare === null) {
    return `About ${per} judgement${per === 1 ? '' : 's'} for ${each}: even if all agreed, no single pair could be told from chance. ${neededFor70} would tell a 70 : 30 preference.`;
  }
  const share = Math.round(100 * detectableShare);
  return `About ${per} judgements for ${each} tell a ${share} : ${100 - share} preference, 8 times in 10; slighter ones stay open. A 70 : 30 preference needs ${neededFor70}.`;
}

function minutes(value: number): string {
  return value.toFixed(value < 10 ? 1 : 0);
}

/** The panel's minutes, booked like money. */
export function MinutesAccount({
  account,
  plan,
  counts,
}: {
  account: SittingAccount;
  plan: Pick<SittingDraft, 'trialsPerListener' | 'seats'>;
  counts?: SittingCounts;
}) {
  const listening = (plan.trialsPerListener * pairTrialSeconds(account.clipSeconds)) / 60;
  const settling = SETTLING_S / 60;
  const pauses = account.minutesEach - listening - settling;
  const spent = counts
    ? counts.joined * settling + (counts.answers * pairTrialSeconds(account.clipSeconds)) / 60
    : 0;
  return (
    <>
      <Table size="small" aria-label="Account of the panel’s minutes" sx={{ maxWidth: 760 }}>
        <TableHead>
          <TableRow>
            <TableCell>Entry</TableCell>
            <TableCell>Buys</TableCell>
            <TableCell align="right">Each, min</TableCell>
            <TableCell align="right">Listeners</TableCell>
            <TableCell align="right">In all, min</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          <TableRow>
            <TableCell>
              <strong>Which suits the part?</strong> pairs, {plan.trialsPerListener} trials
            </TableCell>
            <TableCell>
              {account.judgementsPerPair.toFixed(1)} judgements for each of {account.pairs}{' '}
              {account.pairs === 1 ? 'pair' : 'pairs'}
            </TableCell>
            <TableCell align="right">{minutes(listening)}</TableCell>
            <TableCell align="right">{plan.seats}</TableCell>
            <TableCell align="right">{minutes(listening * plan.seats)}</TableCell>
          </TableRow>
          <TableRow>
            <TableCell>
              <strong>Settling in{pauses > 0.01 ? ' and pauses' : ''}</strong>
            </TableCell>
            <TableCell>consent, level, one practice trial</TableCell>
            <TableCell align="right">{minutes(settling + pauses)}</TableCell>
            <TableCell align="right">{plan.seats}</TableCell>
            <TableCell align="right">{minutes((settling + pauses) * plan.seats)}</TableCell>
          </TableRow>
          <TableRow>
            <TableCell colSpan={2} sx={{ fontWeight: 600 }}>
              Asked of the panel
            </TableCell>
            <TableCell align="right" sx={{ fontWeight: 600 }}>
              {minutes(account.minutesEach)}
            </TableCell>
            <TableCell />
            <TableCell align="right">
              <Box
                component="span"
                sx={{
                  fontWeight: 600,
                  borderBottom: `4px double ${token('ink')}`,
                  pb: 0.25,
                  pl: 2,
                }}
              >
                {minutes(account.minutesInAll)}
              </Box>
            </TableCell>
          </TableRow>
          {counts && (
            <TableRow>
              <TableCell colSpan={2}>Paid in so far, about</TableCell>
              <TableCell />
              <TableCell align="right">{counts.joined}</TableCell>
              <TableCell align="right">{minutes(spent)}</TableCell>
            </TableRow>
          )}
        </TableBody>
      </Table>
      <Typography sx={{ mt: 1.5, maxWidth: '76ch' }}>{certaintyText(account)}</Typography>
      <Typography sx={{ mt: 0.5, maxWidth: '76ch', color: token('soft'), fontSize: '0.875rem' }}>
        Counted as if one judgement were as good as another. Answers of one listener lean on each
        other, so more listeners help where more repeats do not.
      </Typography>
    </>
  );
}
