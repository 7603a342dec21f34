'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import type { StageSettings } from '@/core/processing/stages';
import { fetchWithRetries } from '@/ui/player/engine';
import { token } from '@/ui/tokens';
import { ClipAudition } from './ClipAudition';
import type { PreviewMade, PreviewOrder } from './preview.worker';

interface Heard {
  plain: string;
  processed: string;
}

function release(heard: Heard | null): void {
  if (!heard) return;
  URL.revokeObjectURL(heard.plain);
  URL.revokeObjectURL(heard.processed);
}

/** Hears the settings on one clip before a set is made; computed in the browser, away from the page. */
export function ProcessPreview({
  name,
  url,
  stages,
  urlOf = () => null,
}: {
  name: string;
  /** Of the raw clip. */
  url: string;
  stages: readonly StageSettings[];
  /** Address of another chain's raw clip, for stages that ask for one. */
  urlOf?: (chainId: string) => string | null;
}) {
  const [heard, setHeard] = useState<Heard | null>(null);
  const [state, setState] = useState<'idle' | 'busy' | 'failed'>('idle');
  useEffect(() => () => release(heard), [heard]);
  const make = async () => {
    setState('busy');
    try {
      const wav = await fetchWithRetries(url);
      const asked = stages.flatMap((stage) => ('chainId' in stage ? [stage.chainId] : []));
      const others: PreviewOrder['others'] = [];
      for (const chainId of new Set(asked)) {
        const address = urlOf(chainId);
        if (address) others.push({ chainId, wav: await fetchWithRetries(address) });
      }
      const worker = new Worker(new URL('./preview.worker.ts', import.meta.url), {
        type: 'module',
      });
      const made = await new Promise<PreviewMade>((resolve) => {
        worker.addEventListener('message', ({ data }: MessageEvent<PreviewMade>) => resolve(data));
        worker.addEventListener('error', () => resolve({ failed: true }));
        const order: PreviewOrder = { wav, stages, others };
        worker.postMessage(order, [wav, ...others.map((other) => other.wav)]);
      });
      worker.terminate();
      if ('failed' in made) throw new Error('the preview was not made');
      const address = (bytes: ArrayBuffer) =>
        URL.createObjectURL(new Blob([bytes], { type: 'audio/wav' }));
      setHeard({ plain: address(made.plain), processed: address(made.processed) });
      setState('idle');
    } catch {
      setState('failed');
    }
  };
  return (
    <Box sx={{ my: 1 }}>
      <Button
        size="small"
        variant="outlined"
        disabled={state === 'busy'}
        onClick={() => void make()}
      >
        {state === 'busy' ? 'One moment' : `Hear it on ${name}`}
      </Button>
      {state === 'failed' && (
        <Typography sx={{ color: token('red'), fontSize: '0.875rem' }}>
          The preview could not be made; the settings are kept. Try again.
        </Typography>
      )}
      {heard && (
        <Box sx={{ mt: 1 }}>
          <ClipAudition
            clips={[
              { name: 'with these settings', url: heard.processed },
              { name: 'raw', url: heard.plain },
            ]}
          />
        </Box>
      )}
    </Box>
  );
}
