import { measure } from '@/core/loudness/meter';
import { designBiquad, filterInPlace } from '@/core/signal/biquad';
import { dbToAmplitude } from '@/core/signal/units';
import { encodeWav } from '@/core/wav/write';
import { performance } from './instruments';
import { MICROPHONES } from './microphones';
import { PREAMPS } from './preamps';
import { recordTake, SMALL_STUDIO } from './record';

const LENGTH_S = 8;
const SEED = 2024;
/** Kept free below full scale, as for clips. */
const CEILING_DBTP = -1.1;

type Phrase = { plain: Float64Array; dark: Float64Array };
const phrases = new Map<number, Phrase>();

/** The phrase does not depend on the set, so each rate is synthesised once. */
function phraseAt(sampleRateHz: number): Phrase {
  let phrase = phrases.get(sampleRateHz);
  if (!phrase) phrases.set(sampleRateHz, (phrase = synthesised(sampleRateHz)));
  return phrase;
}

function synthesised(sampleRateHz: number): Phrase {
  const take = recordTake(performance('cello', sampleRateHz, SEED), sampleRateHz, {
    microphone: MICROPHONES[3],
    preamp: PREAMPS[0],
    gainDb: 42,
    distanceM: 0.7,
    angleDeg: 0,
    room: SMALL_STUDIO,
    polarityInverted: false,
    seed: SEED,
  });
  const start = Math.round(0.3 * sampleRateHz);
  const plain = take.slice(start, start + LENGTH_S * sampleRateHz);
  const fade = Math.round(0.2 * sampleRateHz);
  for (let n = 0; n < fade; n++) {
    plain[n] *= n / fade;
    plain[plain.length - 1 - n] *= n / fade;
  }
  const dark = filterInPlace(plain.slice(), [
    designBiquad('highshelf', 1200, sampleRateHz, 0.7, -9),
  ]);
  return { plain, dark };
}

/**
 * Two variants of a made-up cello phrase at a set's loudness: for setting the level, and for the practice
 * trial (the second is clearly darker). Made from no take, so that they tell nothing of any chain.
 * @returns 32-bit float WAVs of equal length
 */
export function settlingClips(
  sampleRateHz: number,
  channels: number,
  targetLufs: number,
): Uint8Array[] {
  const { plain, dark } = phraseAt(sampleRateHz);
  return [plain, dark].map((samples) => {
    const format = {
      sampleRateHz,
      channels,
      bitDepth: 32,
      encoding: 'float',
      channelMask: 0,
    } as const;
    const copies = Array.from({ length: channels }, () => samples);
    const { integratedLufs, truePeakDbtp } = measure(copies, format);
    const wanted = targetLufs - (integratedLufs ?? 0);
    const gain = dbToAmplitude(Math.min(wanted, CEILING_DBTP - (truePeakDbtp ?? 0)));
    return encodeWav(
      copies.map((copy) => copy.map((x) => x * gain)),
      sampleRateHz,
      '32f',
    );
  });
}
