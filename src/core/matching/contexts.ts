import { measureKnowingPeak } from '@/core/loudness/meter';
import { WORKING_LUFS } from '@/core/processing/dynamics';
import { processClip } from '@/core/processing/process';
import type { ProcessSettings } from '@/core/processing/settings';
import { dbToAmplitude } from '@/core/signal/units';
import { applyToneMatch, toneMatch, type ToneMatchSettings } from '@/core/spectrum/tone-match';
import type { WavFormat } from '@/core/wav/format';
import { MatchError, type Process, scaled } from './match';

/** In which surroundings clips are heard; the match is made anew in each. */
export type Context =
  | { kind: 'raw' }
  | { kind: 'alike'; settings: ProcessSettings }
  /** Settings take by take, in the order of the plan. */
  | { kind: 'tailored'; settings: readonly ProcessSettings[] }
  | { kind: 'mix'; backing: Float64Array[]; balanceDb: number }
  | { kind: 'toned'; settings: ToneMatchSettings };

export type ContextKind = Context['kind'];

/** What a tone match does to each band of each clip, dB. */
export type Toning = { centerHz: number; db: number }[];

/** Everything that depends on level hears clips at one loudness. @throws MatchError for silence */
export function atWorkingLevel(channels: readonly Float64Array[], sampleRateHz: number) {
  const format: WavFormat = {
    sampleRateHz,
    channels: channels.length,
    bitDepth: 32,
    encoding: 'float',
    channelMask: 0,
  };
  // The peak does not count here, so it is not looked for.
  const { integratedLufs } = measureKnowingPeak(channels, format, 1);
  if (integratedLufs === null) {
    throw new MatchError('a clip is silent in this passage, so nothing can be made of it');
  }
  const gain = dbToAmplitude(WORKING_LUFS - integratedLufs);
  return channels.map((samples) => scaled(samples, gain));
}

/**
 * The process of a context; null for raw.
 * @param onToning told what a tone match does to the clip of an index
 */
export function processOf(
  context: Context,
  sampleRateHz: number,
  onToning?: (index: number, toning: Toning) => void,
): Process | undefined {
  switch (context.kind) {
    case 'raw':
      return undefined;
    case 'alike':
      return (channels) =>
        processClip(atWorkingLevel(channels, sampleRateHz), sampleRateHz, context.settings);
    case 'tailored':
      return (channels, i) =>
        processClip(atWorkingLevel(channels, sampleRateHz), sampleRateHz, context.settings[i]);
    case 'mix': {
      const gain = dbToAmplitude(context.balanceDb);
      const backing = atWorkingLevel(context.backing, sampleRateHz);
      return (channels) => {
        const mixed = atWorkingLevel(channels, sampleRateHz);
        for (const [c, samples] of mixed.entries()) {
          const behind = backing[c % backing.length];
          const until = Math.min(samples.length, behind.length);
          for (let n = 0; n < until; n++) samples[n] += gain * behind[n];
        }
        return mixed;
      };
    }
    case 'toned':
      return (channels, i, reference) => {
        if (channels === reference) return channels;
        const made = toneMatch(reference, channels, sampleRateHz, context.settings);
        onToning?.(i, made.bands);
        return channels.map((samples) => applyToneMatch(samples, made));
      };
  }
}
