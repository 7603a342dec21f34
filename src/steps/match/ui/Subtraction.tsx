'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { z } from 'zod';
import { MATCH } from '@/steps/match/endpoints';
import type { compared } from '@/steps/takes/schema';
import { leftWords } from '@/steps/takes/ui/left-words';
import { NamedListening } from '@/ui/NamedListening';
import { request, RequestError } from '@/ui/request';
import { useOneSound } from '@/ui/useOneSound';

interface Side {
  chainId: string;
  name: string;
}

/** One clip of a set taken from another: how much is left, and the sound of it. */
export function Subtraction({
  ids,
  reference,
  other,
}: {
  ids: { id: string; setId: string };
  reference: Side;
  other: Side;
}) {
  const [found, setFound] = useState<z.infer<typeof compared> | string | null>(null);
  const sound = useOneSound();
  const url = `/api/comparisons/${ids.id}/clips/${ids.setId}/${reference.chainId}/residual/${other.chainId}`;
  const ask = () => {
    setFound('Being subtracted …');
    request(MATCH.compare, {
      ...ids,
      chainId: reference.chainId,
      otherId: other.chainId,
    }).then(setFound, (error: unknown) =>
      setFound(error instanceof RequestError ? error.message : 'Try again.'),
    );
  };
  if (found === null) {
    return (
      <Button size="small" onClick={ask}>
        Subtract {reference.name} from {other.name}
      </Button>
    );
  }
  if (typeof found === 'string') return <Typography component="span">{found}</Typography>;
  return (
    <Box>
      <Typography component="span">
        {other.name} without {reference.name}, at its best delay and gain: {leftWords(found)}.
      </Typography>{' '}
      {found.nullDb !== null && (
        <Button size="small" onClick={() => sound.toggle(url)}>
          {sound.playing === url ? 'Stop' : 'Hear what is left'}
        </Button>
      )}
      {sound.shut && <NamedListening onInsist={sound.insist} />}
    </Box>
  );
}
