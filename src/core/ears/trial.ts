import { loudnessOf, truePeakOf } from '@/core/loudness/meter';
import { WORKING_LUFS } from '@/core/processing/dynamics';
import { Random } from '@/core/signal/random';
import { soundOf } from '@/core/signal/sound';
import { amplitudeToDb } from '@/core/signal/units';
import { FloatClip } from '@/core/wav/float-clip';
import { type Drawn, INTERVALS, type SessionPlan } from './session';
import { EarsError, energyOf, type Heard, louder } from './skill';

/** Long enough to hear what it is, short enough to hold three in mind. */
const EXCERPT_S = 3;
const SHORTEST_S = 0.8;
const FADE_S = 0.03;
const CEILING_DBTP = -1;
/** Quieter than that a clip is silent. */
const SILENT_LUFS = -60;
const SETTLED_LU = 0.002;
const MOST_ROUNDS = 6;

/** What trials are made on: an excerpt at the working loudness, and that of the other chain. */
export interface Material {
  sound: Heard;
  other: Heard | null;
  sampleRateHz: number;
}

/** Where the loudest stretch of so many frames begins. */
function loudest(sound: Heard, frames: number): number {
  const all = sound[0]!.length;
  const hop = Math.max(1, Math.round(frames / 12));
  let best = { at: 0, energy: -1 };
  for (let at = 0; at + frames <= all; at += hop) {
    const energy = energyOf(sound.map((samples) => samples.subarray(at, at + frames)));
    if (energy > best.energy) best = { at, energy };
  }
  return best.at;
}

function faded(sound: Heard, at: number, frames: number, fade: number): Float64Array[] {
  return sound.map((samples) => {
    const part = samples.slice(at, at + frames);
    for (let n = 0; n < Math.min(fade, part.length); n++) {
      const gain = 0.5 - 0.5 * Math.cos((Math.PI * (n + 0.5)) / fade);
      part[n]! *= gain;
      part[part.length - 1 - n]! *= gain;
    }
    return part;
  });
}

/**
 * The loudest three seconds of a clip, faded in and out, at the working loudness.
 * @param clips one clip, or two of two chains, aligned
 * @throws EarsError for a clip that is silent or too short
 */
export function materialOf(clips: readonly Heard[], sampleRateHz: number): Material {
  const length = Math.min(...clips.map(([first]) => first!.length));
  const frames = Math.min(length, Math.round(EXCERPT_S * sampleRateHz));
  if (frames < SHORTEST_S * sampleRateHz) throw new EarsError('short');
  const at = loudest(clips[0]!, frames);
  const [sound, other] = clips.map((clip) => {
    const part = faded(clip, at, frames, Math.round(FADE_S * sampleRateHz));
    const loudness = loudnessOf(soundOf(part), sampleRateHz);
    if (loudness === null || loudness < SILENT_LUFS) throw new EarsError('silent');
    return louder(part, WORKING_LUFS - loudness);
  });
  return { sound: sound!, other: other ?? null, sampleRateHz };
}

/** Brought to a loudness; gain is not quite additive in it, so it is measured again. */
function broughtTo(sound: Heard, sampleRateHz: number, lufs: number): Float64Array[] {
  let made = louder(sound, 0);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const loudness = loudnessOf(soundOf(made), sampleRateHz);
    if (loudness === null) throw new EarsError('silentWith');
    if (Math.abs(lufs - loudness) < SETTLED_LU) break;
    made = louder(made, lufs - loudness);
  }
  return made;
}

/** The plain sound, and the one that differs, equally loud unless loudness is what differs. @throws EarsError */
export function soundsOf(
  { skill, choices, seed }: SessionPlan,
  { sound, other, sampleRateHz }: Material,
  { position, amount, way }: Pick<Drawn, 'position' | 'amount' | 'way'>,
): { plain: Float64Array[]; changed: Float64Array[] } {
  const random = Random.derived(seed, `noise of trial ${position}`);
  const raw = skill.change({ sound, other, sampleRateHz, amount, choices, way, random });
  const changed = skill.loud ? raw : broughtTo(raw, sampleRateHz, WORKING_LUFS);
  const peak = Math.max(...[sound, changed].map((one) => truePeakOf(soundOf(one), 0)));
  // What would clip is turned down with all the rest, so that nothing differs but what is meant.
  const down = Math.min(0, CEILING_DBTP - amplitudeToDb(peak));
  return { plain: louder(sound, down), changed: louder(changed, down) };
}

/** The three sounds of a trial as 32-bit float WAVs. @throws EarsError where the clip does not serve */
export function intervalsOf(
  plan: SessionPlan,
  material: Material,
  drawn: Drawn,
): Uint8Array<ArrayBuffer>[] {
  const { plain, changed } = soundsOf(plan, material, drawn);
  return Array.from({ length: INTERVALS }, (_, slot) => {
    const { channels, frames } = soundOf(plain);
    const clip = FloatClip.empty(channels, frames, material.sampleRateHz);
    clip.write(0, slot === drawn.odd ? changed : plain);
    return clip.bytes;
  });
}
