import { Random } from '@/core/signal/random';
import { dbToAmplitude } from '@/core/signal/units';
import { performance } from '@/core/simulation/instruments';
import { MICROPHONES } from '@/core/simulation/microphones';
import { PREAMPS } from '@/core/simulation/preamps';
import { recordTake, SMALL_STUDIO } from '@/core/simulation/record';
import { encodeWav } from '@/core/wav/write';
import { putAudio } from '@/platform/audio-store';
import { db, transaction } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { addChain, chooseReference } from '@/steps/chains/service';
import { createComparison, sourceOf } from '@/steps/comparisons/service';
import { keepRecorded } from '@/steps/takes/service';
import { SCENARIO } from '../../demo/scenario';
import { keepBrief, matched, settled } from './demo-steps';

const { PI, cos, sin } = Math;
const RATE = SCENARIO.sampleRateHz;
/** What is printed before the music: a tone from the same oscillator into every preamp, then a breath of silence. */
const TONE_S = 1.5;
const SILENCE_S = 0.5;
/** Of the tone as recorded at a gain of 40 dB. */
const TONE_DBFS = -20;

type ArrayChain = (typeof SCENARIO.arrays.chains)[number];

/** Left and right of an array as it hears both players, a tone printed before them. */
function recorded(array: ArrayChain, played: readonly Float64Array[]): Float64Array[] {
  const { seed, players } = SCENARIO.arrays;
  const microphone = MICROPHONES.find(({ name }) => name === array.microphone)!;
  const preamp = PREAMPS.find(({ name }) => name === array.preamp)!;
  const level = dbToAmplitude(TONE_DBFS + array.gainDb - 40);
  return [-1, 1].map((side, channel) => {
    const heard = players.map(({ distanceM, directionDeg }, i) => {
      const direction = (directionDeg * PI) / 180;
      // The wave comes from far enough away to be plane across the array.
      const nearerM = side * (array.spacingM / 2) * sin(direction);
      return recordTake(played[i]!, RATE, {
        microphone,
        preamp,
        gainDb: array.gainDb,
        distanceM: distanceM - nearerM,
        angleDeg: directionDeg - (side * array.openingDeg) / 2,
        room: { ...SMALL_STUDIO, seed: SMALL_STUDIO.seed + channel },
        polarityInverted: false,
        seed: seed + 2 * i + channel,
      });
    });
    const toneLength = TONE_S * RATE;
    const before = toneLength + SILENCE_S * RATE;
    const samples = new Float64Array(before + heard[0]!.length);
    const fade = 0.02 * RATE;
    for (let n = 0; n < toneLength; n++) {
      const edge = Math.min(1, n / fade, (toneLength - n) / fade);
      const weight = 0.5 - 0.5 * cos(PI * edge);
      samples[n] = weight * level * sin((2 * PI * 1000 * n) / RATE);
    }
    for (const one of heard) one.forEach((x, n) => (samples[before + n]! += x));
    return samples;
  });
}

/** The fourth comparison: two stereo arrays in the room at once, matched by the tone that is printed on both. */
export async function loadArrays(
  engineer: SignedIn,
  gear: ReadonlyMap<string, string>,
  say: (line: string) => void,
): Promise<void> {
  const {
    brief: written,
    passageS,
    seed,
    lengthS,
    players,
    chains,
    converter,
    ...draft
  } = SCENARIO.arrays;
  // Dated before the others.
  const id = await createComparison(engineer, draft, new Date(Date.now() - 180_000), true);
  await keepBrief(engineer, id, written);
  const { id: sourceId } = await sourceOf(db(), id, null);
  const played = players.map(({ instrument }, i) =>
    performance(instrument, RATE, seed + i, lengthS).slice(0, lengthS * RATE),
  );
  const ids: string[] = [];
  for (const array of chains) {
    const { name, microphone, preamp, spacingM, openingDeg, gainDb } = array;
    const chainId = await addChain(engineer, id, {
      name,
      items: '',
      priceCents: null,
      distanceM: 2.2,
      shape: { kind: 'pair', spacingM, openingDeg },
      gear: [microphone, preamp, converter].map((item) => ({
        gearId: gear.get(item) ?? '',
        settings: item === preamp ? { gainDb } : {},
      })),
    });
    ids.push(chainId);
    const dither = [0, 1].map((channel) => Random.derived(seed + channel, `dither of ${name}`));
    const bytes = encodeWav(recorded(array, played), RATE, 24, dither);
    await transaction(async (tx) => {
      const audioId = await putAudio(tx, bytes, new Date());
      const fileName = `${name.replaceAll(' ', '_').replace(',', '')}.wav`;
      const take = { comparisonId: id, audioId, fileName, chainId, sourceId };
      await keepRecorded(tx, { ...take, programme: 'performance' }, new Date());
    });
  }
  const reason = 'the pair that this room was recorded with so far';
  await chooseReference(engineer, id, { chainId: ids[0]!, reason }, new Date());
  await settled(id);
  say('Two stereo pairs are recorded, each with its tone.');
  await matched(engineer, id, passageS, {
    method: 'tone',
    referenceChainId: ids[0]!,
    contexts: [{ kind: 'raw' }],
  });
}
