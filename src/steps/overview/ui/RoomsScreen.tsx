'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import type { OpenRoom } from '@/steps/listening/store';
import { countWord } from '@/ui/format';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { onlyPlaceOf, type Role } from '@/platform/sign-in/roles';
import { SITTINGS } from '@/steps/sitting/endpoints';

/** Rooms that wait for whoever runs them. */
export function RoomsScreen({
  name,
  role,
  rooms,
}: {
  name: string;
  role: Role;
  rooms: readonly OpenRoom[];
}) {
  const { send, busy } = useSend();
  const router = useRouter();
  const run = async (sittingId: string) => {
    const made = await send(SITTINGS.roomLink, { sittingId });
    if (made) router.push(`/conduct/${made.token}`);
  };
  return (
    <StudioFrame
      name={name}
      only={onlyPlaceOf(role)}
      margin={
        <MarginNote title="Double blind">
          Whoever runs a room is told no more than the panel: no names of chains, no answers.
        </MarginNote>
      }
    >
      <PageHeading
        finding={
          rooms.length === 0
            ? 'No room waits for a conductor'
            : countWord(rooms.length, 'room waits', 'rooms wait')
        }
        aside="A room opens when an engineer seals a sitting for everybody together."
      />
      {rooms.map(({ sittingId, title, seats, joined }) => (
        <Box
          key={sittingId}
          sx={{
            display: 'flex',
            alignItems: 'center',
            gap: 2,
            py: 1.25,
            borderTop: `1px solid ${token('hair')}`,
          }}
        >
          <Box sx={{ flex: 1 }}>
            <Typography sx={{ fontWeight: 600 }}>{title}</Typography>
            <Typography sx={{ color: token('soft'), fontSize: '0.875rem' }}>
              {joined} of {seats} seats taken
            </Typography>
          </Box>
          <Button variant="contained" disabled={busy} onClick={() => void run(sittingId)}>
            Run this room
          </Button>
        </Box>
      ))}
    </StudioFrame>
  );
}
