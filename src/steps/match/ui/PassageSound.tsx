'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import { token } from '@/ui/tokens';

/** The passage of any take, by name, as it was recorded: to find it before anything is matched. */
export function PassageSound({
  takesUrl,
  takes,
  passage: [fromS, toS],
}: {
  takesUrl: string;
  /** Those that go into the match, the reference's first. */
  takes: { id: string; name: string; lateS: number }[];
  passage: readonly [number, number];
}) {
  const audio = useRef<HTMLAudioElement | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [sounding, setSounding] = useState(false);
  const [shut, setShut] = useState(false);
  const take = takes.find(({ id }) => id === chosen) ?? takes[0];
  const stop = () => {
    audio.current?.pause();
    audio.current = null;
    setSounding(false);
  };
  useEffect(() => () => audio.current?.pause(), []);
  if (!take) return null;
  const play = () => {
    stop();
    const made = new Audio(`${takesUrl}/${take.id}/audio`);
    const from = Math.max(0, fromS + take.lateS);
    made.currentTime = from;
    made.ontimeupdate = () => {
      if (made.currentTime >= toS + take.lateS) stop();
    };
    made.onended = stop;
    audio.current = made;
    setSounding(true);
    setShut(false);
    void made.play().catch(() => {
      // Stopped by hand, it was let go before.
      if (audio.current !== made) return;
      setShut(true);
      stop();
    });
  };
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'center', mt: 2, mb: 2 }}>
      <Button variant="outlined" onClick={sounding ? stop : play}>
        {sounding ? 'Stop' : 'Hear the passage'}
      </Button>
      <TextField
        select
        size="small"
        label="as recorded by"
        value={take.id}
        onChange={({ target }) => {
          stop();
          setChosen(target.value);
        }}
        sx={{ width: 230 }}
      >
        {takes.map(({ id, name }) => (
          <MenuItem key={id} value={id}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <Typography sx={{ fontSize: '0.8125rem', color: token('soft') }} role="status">
        {shut &&
          'It is not played: a sitting asks about this take just now, or the sound did not arrive.'}
      </Typography>
    </Box>
  );
}
