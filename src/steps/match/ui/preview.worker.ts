import { toWorkingLevel } from '@/core/matching/contexts';
import { loudnessOf } from '@/core/loudness/meter';
import { processStages } from '@/core/processing/process';
import type { ProcessSettings } from '@/core/processing/settings';
import { type Stage, throughStages } from '@/core/signal/stage';
import { FloatClip } from '@/core/wav/float-clip';
import { decodeWav } from '@/core/wav/read';

/** A clip as it is heard, and what it shall go through. */
export interface PreviewOrder {
  wav: ArrayBuffer;
  settings: ProcessSettings;
}

/** Both ways to hear it, equally loud; or that it could not be made. */
export type PreviewMade = { plain: ArrayBuffer; processed: ArrayBuffer } | { failed: true };

function through(clip: FloatClip, stages: readonly Stage[]): FloatClip<ArrayBuffer> {
  const made = FloatClip.empty(clip.channels, clip.frames, clip.sampleRateHz);
  throughStages(clip, stages, (block, at) => made.write(at, block));
  return made;
}

function atWorkingLevel(clip: FloatClip): FloatClip<ArrayBuffer> {
  return through(clip, [toWorkingLevel(loudnessOf(clip, clip.sampleRateHz))]);
}

/** The same code as in the bank's own worker, so that both sound the same. */
async function preview({ wav, settings }: PreviewOrder): Promise<PreviewMade> {
  const { header, channels } = await decodeWav(new Uint8Array(wav));
  const plain = atWorkingLevel(FloatClip.of(channels, header.format.sampleRateHz));
  const stages = processStages(plain.channels, plain.sampleRateHz, settings);
  const processed = atWorkingLevel(through(plain, stages));
  return { plain: plain.bytes.buffer, processed: processed.bytes.buffer };
}

self.addEventListener('message', ({ data }: MessageEvent<PreviewOrder>) => {
  void preview(data)
    .catch((): PreviewMade => ({ failed: true }))
    .then((made) => self.postMessage(made));
});
