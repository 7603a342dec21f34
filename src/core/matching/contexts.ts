import { loudnessOf } from '@/core/loudness/meter';
import { WORKING_LUFS } from '@/core/processing/dynamics';
import { processStages } from '@/core/processing/process';
import type { ProcessSettings } from '@/core/processing/settings';
import { blockOf, firstOf, type Sound } from '@/core/signal/sound';
import { amplifier, type Stage } from '@/core/signal/stage';
import { dbToAmplitude } from '@/core/signal/units';
import { spectraOfClips } from '@/core/spectrum/spectra';
import { toneMatch, type ToneMatchSettings, toneMatchStage } from '@/core/spectrum/tone-match';
import { type AlignedClip, MatchError } from './align';
import type { Process } from './match';

/** In which surroundings clips are heard; the match is made anew in each. */
export type Context =
  | { kind: 'raw' }
  | { kind: 'alike'; settings: ProcessSettings }
  /** Settings take by take, in the order of the plan. */
  | { kind: 'tailored'; settings: readonly ProcessSettings[] }
  | { kind: 'mix'; backing: Sound; balanceDb: number }
  | { kind: 'toned'; settings: ToneMatchSettings };

export type ContextKind = Context['kind'];

/** What a tone match does to each band of each clip, dB. */
export type Toning = { centerHz: number; db: number }[];

/** Everything that depends on level hears clips at one loudness. @throws MatchError for silence */
export function toWorkingLevel(lufs: number | null): Stage {
  if (lufs === null) {
    throw new MatchError('a clip is silent in this passage, so nothing can be made of it');
  }
  return amplifier(dbToAmplitude(WORKING_LUFS - lufs));
}

/**
 * Stages at one loudness, and back to the clip's own: a gain that a printed tone told before them is right after
 * them as well.
 * @throws MatchError for silence
 */
export function atWorkingLevel(lufs: number | null, stages: readonly Stage[]): Stage[] {
  const there = toWorkingLevel(lufs);
  return [there, ...stages, amplifier(dbToAmplitude((lufs ?? WORKING_LUFS) - WORKING_LUFS))];
}

/**
 * The process of a context; none for raw.
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
      return processedBy(() => context.settings, sampleRateHz);
    case 'tailored':
      return processedBy((i) => context.settings[i]!, sampleRateHz);
    case 'mix': {
      const level = loudnessOf(context.backing, sampleRateHz);
      return (clips) => (i) =>
        atWorkingLevel(clips[i]!.loudness, [
          mixer(context.backing, [
            toWorkingLevel(level),
            amplifier(dbToAmplitude(context.balanceDb)),
          ]),
        ]);
    }
    case 'toned':
      return (clips, reference) => {
        const sounds = clips.map(({ sound }) => sound);
        const spectra = spectraOfClips(sounds[reference]!, sounds, sampleRateHz);
        return (i) => {
          if (i === reference) return [];
          const made = toneMatch(spectra[i]!, context.settings);
          onToning?.(i, made.bands);
          return [toneMatchStage(sounds[i]!.channels, made)];
        };
      };
  }
}

function processedBy(settings: (index: number) => ProcessSettings, sampleRateHz: number): Process {
  return (clips: readonly AlignedClip[]) => (i) =>
    atWorkingLevel(
      clips[i]!.loudness,
      processStages(clips[i]!.sound.channels, sampleRateHz, settings(i)),
    );
}

/** Adds a backing, which goes through stages of its own that do not hold it up, from its first frame on. */
function mixer(backing: Sound, own: readonly Stage[]): Stage {
  const room = blockOf(backing.channels);
  let at = 0;
  return {
    latency: 0,
    run: (block) => {
      const behind = firstOf(room, block[0]!.length);
      backing.read(at, behind);
      for (const stage of own) stage.run(behind);
      for (const [c, samples] of block.entries()) {
        const other = behind[c % behind.length]!;
        for (let n = 0; n < samples.length; n++) samples[n]! += other[n]!;
      }
      at += block[0]!.length;
    },
  };
}
