import { loudnessOf } from '@/core/loudness/meter';
import type { AlignedClip } from '@/core/matching/align';
import { inMemory } from '@/core/matching/align';
import { toWorkingLevel } from '@/core/matching/contexts';
import { throughOwnStages } from '@/core/matching/variants';
import { offsetOf, type StageSettings } from '@/core/processing/stages';
import { amplifier, type Stage, throughStages } from '@/core/signal/stage';
import { dbToAmplitude } from '@/core/signal/units';
import { FloatClip } from '@/core/wav/float-clip';
import { decodeWav } from '@/core/wav/read';

/** A clip as it is heard, what it shall go through, and clips of other chains that its stages ask for. */
export interface PreviewOrder {
  wav: ArrayBuffer;
  stages: readonly StageSettings[];
  others: { chainId: string; wav: ArrayBuffer }[];
}

/** Both ways to hear it, equally loud but for what is wanted otherwise; or that it could not be made. */
export type PreviewMade = { plain: ArrayBuffer; processed: ArrayBuffer } | { failed: true };

async function read(wav: ArrayBuffer): Promise<AlignedClip<FloatClip>> {
  const { header, channels } = await decodeWav(new Uint8Array(wav));
  const { sampleRateHz } = header.format;
  const sound = FloatClip.of(channels, sampleRateHz);
  const place = { delaySamples: 0, polarityInverted: false, coherence: null, driftPpm: null };
  const loudness = loudnessOf(sound, sampleRateHz);
  return { ...place, sound, lead: 0, blend: null, toneDbfs: null, loudness };
}

function through(clip: FloatClip, stages: readonly Stage[]): ArrayBuffer {
  const made = FloatClip.empty(clip.channels, clip.frames, clip.sampleRateHz);
  throughStages(clip, stages, (block, at) => made.write(at, block));
  return made.bytes.buffer;
}

/** The same code as in the bank's own worker, so that both sound the same. */
async function preview({ wav, stages, others }: PreviewOrder): Promise<PreviewMade> {
  const clip = await read(wav);
  const { sampleRateHz } = clip.sound;
  const beside = await Promise.all(others.map((other) => read(other.wav)));
  const takes = others.map(({ chainId }) => ({ name: 'another', chainId, stages: [] }));
  const [made] = throughOwnStages(
    [{ name: 'this clip', chainId: '', stages }, ...takes],
    [clip, ...beside],
    sampleRateHz,
    inMemory(sampleRateHz),
  );
  const onPurpose = amplifier(dbToAmplitude(offsetOf(stages)));
  return {
    plain: through(clip.sound, [toWorkingLevel(clip.loudness)]),
    processed: through(made!.sound, [toWorkingLevel(made!.loudness), onPurpose]),
  };
}

self.addEventListener('message', ({ data }: MessageEvent<PreviewOrder>) => {
  void preview(data)
    .catch((): PreviewMade => ({ failed: true }))
    .then((made) => self.postMessage(made));
});
