'use client';

import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { TASKS } from '@/core/tasks';
import type {
  PartDraft,
  SittingAccount,
  SittingCounts,
  SittingDraft,
} from '@/steps/sitting/schema';
import { token } from '@/ui/tokens';

function minutes(value: number): string {
  return value.toFixed(value < 10 ? 1 : 0);
}

/** The panel's minutes, booked like money: an entry for each part, and what it buys. */
export function MinutesAccount({
  account,
  plan,
  counts,
}: {
  account: SittingAccount;
  plan: Pick<SittingDraft, 'seats' | 'room'> & { parts: readonly Pick<PartDraft, 'task'>[] };
  counts?: SittingCounts;
}) {
  const { seats, room, parts } = plan;
  const listening = account.minutesEach - account.settlingMinutes;
  const share = counts && counts.trialsEach > 0 ? counts.answers / counts.trialsEach : 0;
  const spent = counts ? counts.joined * account.settlingMinutes + share * listening : 0;
  return (
    <>
      <Table size="small" aria-label="Account of the panel’s minutes" sx={{ maxWidth: 900 }}>
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
          {account.parts.map((part, i) => (
            <TableRow key={i} sx={{ verticalAlign: 'top' }}>
              <TableCell sx={{ minWidth: 150 }}>
                <strong>{TASKS[parts[i]!.task].name}</strong>
                <br />
                {part.trials} {part.trials === 1 ? 'trial' : 'trials'}
              </TableCell>
              <TableCell>{part.buys}</TableCell>
              <TableCell align="right">{minutes(part.minutesEach)}</TableCell>
              <TableCell align="right">{seats}</TableCell>
              <TableCell align="right">{minutes(part.minutesEach * seats)}</TableCell>
            </TableRow>
          ))}
          {account.sightedMinutes > 0 && (
            <TableRow>
              <TableCell>
                <strong>Names shown</strong>
              </TableCell>
              <TableCell>
                what looks and price are worth to this panel; nothing about the sound
              </TableCell>
              <TableCell align="right">{minutes(account.sightedMinutes)}</TableCell>
              <TableCell align="right">{seats}</TableCell>
              <TableCell align="right">{minutes(account.sightedMinutes * seats)}</TableCell>
            </TableRow>
          )}
          <TableRow>
            <TableCell>
              <strong>Settling in</strong>
            </TableCell>
            <TableCell>
              {room === 'own'
                ? 'consent, level, one practice trial, a pause every 15 minutes'
                : 'coming in, consent, the level of the room, a pause every 15 minutes'}
            </TableCell>
            <TableCell align="right">{minutes(account.settlingMinutes)}</TableCell>
            <TableCell align="right">{seats}</TableCell>
            <TableCell align="right">{minutes(account.settlingMinutes * seats)}</TableCell>
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
      <Typography sx={{ mt: 1.5, maxWidth: '76ch', color: token('soft'), fontSize: '0.875rem' }}>
        How many answers there will be. What they would find is tried on simulated panels while
        planning: answers of one listener lean on each other, so more listeners help where more
        repeats do not.
      </Typography>
    </>
  );
}
