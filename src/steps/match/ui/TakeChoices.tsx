'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { TakeAlignment } from '@/steps/match/schema';
import type { CaptureMethod } from '@/core/checks/set/set-check';
import type { Passage } from '@/steps/comparisons/schema';
import { isOfPassage } from './of-passage';
import { TAKES } from '@/steps/takes/endpoints';
import type { ShownTake } from '@/steps/takes/schema';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';

/** Which take of each chain the next match is made of: chain by chain, or all of one performance. */
export function TakeChoices({
  comparisonId,
  passage,
  chains,
  takes,
  alignments,
  capture,
}: {
  comparisonId: string;
  passage: Passage;
  chains: { id: string; name: string }[];
  takes: ShownTake[];
  alignments: TakeAlignment[];
  /** How the source was captured. */
  capture: CaptureMethod;
}) {
  const { send, busy } = useSend();
  const ofChain = (id: string) =>
    takes.filter((take) => take.chainId === id && isOfPassage(take, passage));
  const several = chains.filter(({ id }) => ofChain(id).length > 1);
  if (several.length === 0) return null;
  const byTurns = capture === 'one after another';
  const played = takes.flatMap((take) =>
    take.performance && isOfPassage(take, passage)
      ? [{ number: take.performance.number, chainId: take.chainId }]
      : [],
  );
  const performances = [...new Set(played.map(({ number }) => number))].sort((a, b) => a - b);
  const chainsIn = (number: number) =>
    new Set(played.filter((one) => one.number === number).map(({ chainId }) => chainId)).size;
  // One after another nobody played for two chains at once.
  const word = byTurns ? 'round' : 'performance';
  const byNearness = byTurns && takes.some((take) => take.nearest && isOfPassage(take, passage));
  const takeOf = (id: string) => alignments.find(({ chainId }) => chainId === id)?.takeId ?? '';
  return (
    <Box component="details" sx={{ mb: 2 }}>
      <Box component="summary" sx={{ cursor: 'pointer', color: token('pen') }}>
        Which take of each chain
      </Box>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', my: 1, maxWidth: '70ch' }}>
        A performance is one time somebody played. Chains that recorded it at once differ by nothing
        else; takes of different performances differ by the player as well. Which take is of which
        is told by the sound, the times in the files, their names and their order, and can be set
        right at Takes.
      </Typography>
      {byNearness && (
        <Typography sx={{ fontSize: '0.875rem', mb: 1, maxWidth: '70ch' }}>
          Recorded one after another: unless you choose, clips are made of the takes that are
          nearest to each other in tempo (by the length of what was played) and loudness, so that
          the player differs as little as can be.
        </Typography>
      )}
      {!byTurns && performances.length > 1 && (
        <Typography sx={{ fontSize: '0.875rem', mb: 1, maxWidth: '70ch' }}>
          Unless you choose, clips are made of the performance that most chains recorded.
        </Typography>
      )}
      {performances.length > 1 && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mb: 1.5 }}>
          {performances.map((number) => (
            <Button
              key={number}
              variant="outlined"
              disabled={busy}
              onClick={() =>
                void send(
                  TAKES.pickPerformance,
                  { id: comparisonId },
                  { sourceId: passage.sourceId, number },
                )
              }
            >
              All of {word} {number}
              {chainsIn(number) < chains.length && ` (${chainsIn(number)} chains)`}
            </Button>
          ))}
        </Box>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5 }}>
        {several.map(({ id, name }) => (
          <TextField
            key={id}
            select
            size="small"
            label={name}
            value={takeOf(id)}
            disabled={busy}
            onChange={({ target }) =>
              void send(TAKES.pick, { id: comparisonId, takeId: target.value })
            }
            sx={{ width: 260, mt: 0.5 }}
          >
            {ofChain(id).map((take, i) => (
              <MenuItem key={take.id} value={take.id}>
                {take.performance?.number ?? i + 1}: {take.fileName}
              </MenuItem>
            ))}
          </TextField>
        ))}
      </Box>
    </Box>
  );
}
