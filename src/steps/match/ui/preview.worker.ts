import { atWorkingLevel } from '@/core/matching/contexts';
import { processClip } from '@/core/processing/process';
import type { ProcessSettings } from '@/core/processing/settings';
import { decodeWav } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';

/** A clip and what it shall go through. */
export interface PreviewOrder {
  wav: ArrayBuffer;
  settings: ProcessSettings;
}

/** Both ways to hear it, equally loud; or that it could not be made. */
export type PreviewMade = { plain: ArrayBuffer; processed: ArrayBuffer } | { failed: true };

/** The same code as in the bank's own worker, so that both sound the same. */
async function preview({ wav, settings }: PreviewOrder): Promise<PreviewMade> {
  const { header, channels } = await decodeWav(new Uint8Array(wav));
  const { sampleRateHz } = header.format;
  const plain = atWorkingLevel(channels, sampleRateHz);
  const processed = atWorkingLevel(processClip(plain, sampleRateHz, settings), sampleRateHz);
  const bytes = (made: Float64Array[]) => encodeWav(made, sampleRateHz, '32f').buffer;
  return { plain: bytes(plain), processed: bytes(processed) };
}

self.addEventListener('message', ({ data }: MessageEvent<PreviewOrder>) => {
  void preview(data)
    .catch((): PreviewMade => ({ failed: true }))
    .then((made) => self.postMessage(made));
});
