import { LoudnessMeter } from '@/core/loudness/loudness-meter';
import { measure } from '@/core/loudness/meter';
import { heardFormat } from '@/core/matching/rounded';
import { designBiquad, filterInPlace } from '@/core/signal/biquad';
import { amplifier, throughStages } from '@/core/signal/stage';
import { dbToAmplitude, powerToDb } from '@/core/signal/units';
import { FloatClip } from '@/core/wav/float-clip';
import { simulatedPhrase } from './phrase';
import { TRAINING_SOUNDS, type TrainingSound } from './training-sounds';

const BEGIN_S = 0.3;
const LENGTH_S = 8;
const SEED = 2024;
/** Kept free below full scale, as for clips. */
const CEILING_DBTP = -1.1;

/** How near to the set's loudness a phrase is brought, and how often that is tried. */
const SETTLED_LU = 0.01;
const MOST_ROUNDS = 4;

/** One variant of the phrase: a clip of one channel, and how loud it is. */
export interface TrainingVariant {
  bytes: Uint8Array;
  loudnessLufs: number;
  truePeakDbtp: number;
}

/**
 * Two variants of a made-up phrase, of a cello or of somebody reading in no language: for setting the level, and for
 * the practice trial (the second is clearly darker). Made from no take, so that they tell nothing of any chain. They
 * do not depend on a set, so each rate is played once.
 * @returns in the order of `trainingVariant`
 */
export function trainingPhrases(sampleRateHz: number): TrainingVariant[] {
  return TRAINING_SOUNDS.flatMap((sound) => trainingPhrase(sound, sampleRateHz));
}

function trainingPhrase(sound: TrainingSound, sampleRateHz: number): TrainingVariant[] {
  const instrument = sound === 'speech' ? 'reader' : 'cello';
  const take = simulatedPhrase(instrument, sampleRateHz, {
    seed: SEED,
    untilS: BEGIN_S + LENGTH_S,
    distanceM: 0.7,
  });
  const start = Math.round(BEGIN_S * sampleRateHz);
  const plain = take.slice(start, start + LENGTH_S * sampleRateHz);
  const fade = Math.round(0.2 * sampleRateHz);
  for (let n = 0; n < fade; n++) {
    plain[n]! *= n / fade;
    plain[plain.length - 1 - n]! *= n / fade;
  }
  const dark = filterInPlace(plain.slice(), [
    designBiquad('highshelf', 1200, sampleRateHz, 0.7, -9),
  ]);
  return [plain, dark].map((samples) => {
    const { integratedLufs, truePeakDbtp } = measure([samples], {
      sampleRateHz,
      channels: 1,
      bitDepth: 32,
      encoding: 'float',
      channelMask: 0,
    });
    if (integratedLufs === null || truePeakDbtp === null) throw new Error('the phrase is silent');
    const { bytes } = FloatClip.of([samples], sampleRateHz);
    return { bytes, loudnessLufs: integratedLufs, truePeakDbtp };
  });
}

/**
 * The phrases at a set's loudness, as 32-bit float WAVs of equal length.
 * @param channels front channels, all with the same samples: each adds its energy (ITU-R BS.1770)
 */
export function trainingClips(
  phrases: readonly TrainingVariant[],
  channels: number,
  targetLufs: number,
): Uint8Array[] {
  return phrases.map(({ bytes, loudnessLufs, truePeakDbtp }) => {
    const mono = FloatClip.from(bytes);
    const clip = FloatClip.empty(channels, mono.frames, mono.sampleRateHz);
    const most = CEILING_DBTP - truePeakDbtp;
    let gainDb = targetLufs - loudnessLufs - powerToDb(channels);
    for (let round = 0; ; round++) {
      const meter = new LoudnessMeter(heardFormat(channels, mono.sampleRateHz));
      throughStages(mono, [amplifier(dbToAmplitude(Math.min(gainDb, most)))], ([samples], at) => {
        const block = new Array<Float64Array>(channels).fill(samples!);
        clip.write(at, block);
        meter.push(block);
      });
      // What was under the gate between the words may be over it now.
      const off = targetLufs - (meter.finish().integratedLufs ?? targetLufs);
      if (gainDb >= most || Math.abs(off) < SETTLED_LU || round === MOST_ROUNDS) return clip.bytes;
      gainDb += off;
    }
  });
}
