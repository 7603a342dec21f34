'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { type ReactNode, useState } from 'react';
import { LoopBar } from '@/ui/player/LoopBar';
import type { PlayerState, SyncPlayer } from '@/ui/player/engine';
import { usePlayer } from '@/ui/player/usePlayer';
import { FACES, token } from '@/ui/tokens';
import { useShortcuts } from '@/ui/useShortcuts';

export interface Audible {
  name: string;
  url: string;
  /** Heard this much louder or quieter than it was made, dB. */
  trimDb?: number;
}

const KEYS = 9;

/**
 * Sighted listening for the engineer: all clips in one player. One clip may be kept as the one to
 * compare with: a key goes there and back.
 */
export function ClipAudition({
  clips,
  foot,
}: {
  clips: readonly Audible[];
  /** What stands under the player and goes with it. */
  foot?: (current: { player: SyncPlayer; state: PlayerState }) => ReactNode;
}) {
  const most = Math.max(0, ...clips.map(({ trimDb }) => trimDb ?? 0));
  const current = usePlayer(
    clips.map(({ url }) => url),
    undefined,
    clips.map(({ trimDb }) => 10 ** (((trimDb ?? 0) - most) / 20)),
  );
  const [kept, setKept] = useState(0);
  const [other, setOther] = useState(1);
  const hear = (index: number) => {
    if (index !== kept) setOther(index);
    void current?.player.select(index);
  };
  useShortcuts({
    ...Object.fromEntries(
      clips.slice(0, KEYS).map((_, index) => [String(index + 1), () => hear(index)]),
    ),
    a: () => hear(current?.state.selected === kept ? other : kept),
    k: () => current && setKept(current.state.selected),
  });
  if (!current) return null;
  const { player, state } = current;
  if (state.error) return <Typography color="error">{state.error}</Typography>;
  if (!state.ready) {
    return (
      <LinearProgress variant="determinate" value={100 * state.loaded} aria-label="Clips loaded" />
    );
  }
  return (
    <Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
        <Button
          sx={{ width: 76 }}
          onClick={() => (state.playing ? player.pause() : void player.play())}
        >
          {state.playing ? 'Pause' : 'Play'}
        </Button>
        {clips.map(({ name, url }, i) => {
          const here = state.selected === i;
          return (
            <Button
              key={`${url} ${name}`}
              variant="outlined"
              aria-pressed={here && state.playing}
              onClick={() => hear(i)}
              sx={{
                fontFamily: FACES.serif,
                color: token('ink'),
                borderColor: token(here && state.playing ? 'pen' : 'rule'),
                outline: here && state.playing ? `1px solid ${token('pen')}` : 'none',
              }}
            >
              {name}
              {kept === i && (
                <Box
                  component="span"
                  sx={{ ml: 1, fontFamily: FACES.sans, fontSize: '0.75rem', color: token('soft') }}
                >
                  kept
                </Box>
              )}
            </Button>
          );
        })}
        {state.selected !== kept && (
          <Button onClick={() => setKept(state.selected)}>Keep this one to compare with</Button>
        )}
      </Box>
      <LoopBar player={player} state={state} />
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
        Keys: 1 to {Math.min(KEYS, clips.length)} hear, a goes to the kept one and back, k keeps the
        one that sounds.
        {most !== 0 && ` All are ${most.toFixed(1)} dB quieter here, to leave room.`}
      </Typography>
      {foot?.(current)}
    </Box>
  );
}
