import { polarGain, randomEnergyEfficiency } from '@/core/chain/acoustics';
import { aWeightedWhiteDb } from '@/core/signal/a-weighting';
import { designBiquad, filterInPlace } from '@/core/signal/biquad';
import { inverseReal, multiplySpectra, nextPowerOfTwo, spectrumOf } from '@/core/signal/fft';
import { readAt } from '@/core/signal/interpolation';
import { Random } from '@/core/signal/random';
import { dbToAmplitude, speedOfSoundMps } from '@/core/signal/units';
import { type MicrophoneModel, microphoneSections, proximitySection } from './microphones';
import type { PreampModel } from './preamps';

const DBU_V = 0.7745966692;
const REFERENCE_PA = 2e-5;
/** Converter stand-in: peak level of full scale, and its own noise below it. */
const FULL_SCALE_DBU = 18;
const CONVERTER_RANGE_DB = 116;

export interface RoomModel {
  /** Time for 60 dB of decay, s. */
  reverberationS: number;
  /** Where direct and diffuse sound are equally strong for an omni, m. */
  criticalDistanceM: number;
  /** Background noise, dBA. */
  noiseDba: number;
  seed: number;
}

export const SMALL_STUDIO: RoomModel = {
  reverberationS: 0.32,
  criticalDistanceM: 1.3,
  noiseDba: 19,
  seed: 11,
};

export interface RecordingSetup {
  microphone: MicrophoneModel;
  preamp: PreampModel;
  gainDb: number;
  distanceM: number;
  angleDeg: number;
  room: RoomModel;
  polarityInverted: boolean;
  /** Noise of this take; the performance has its own seed. */
  seed: number;
}

/**
 * Records a performance (pascal at 1 m) through a simulated room, microphone, preamp and converter.
 * @returns samples, ±1 = full scale, clipped there as a converter would
 */
export function recordTake(
  pressureAt1M: Float64Array,
  sampleRateHz: number,
  setup: RecordingSetup,
): Float64Array {
  const { microphone, preamp, distanceM, angleDeg, room } = setup;
  const random = Random.derived(setup.seed, `${microphone.name} ${preamp.name}`);
  const length = pressureAt1M.length;
  const arrival = (distanceM / speedOfSoundMps(20)) * sampleRateHz;
  const direct = filterInPlace(readAt(pressureAt1M, -arrival, length), [
    proximitySection(microphone, distanceM, angleDeg, sampleRateHz),
  ]);
  const diffuse = diffuseSound(pressureAt1M, sampleRateHz, room);
  const directGain = polarGain(microphone.pattern, angleDeg) / distanceM;
  const diffuseGain =
    Math.sqrt(randomEnergyEfficiency(microphone.pattern)) / room.criticalDistanceM;
  // White noise whose A-weighted level is the stated one.
  const whiteDb = aWeightedWhiteDb(sampleRateHz);
  const noisePa = (dba: number) => REFERENCE_PA * dbToAmplitude(dba - whiteDb);
  const roomNoise = noisePa(room.noiseDba);
  const pressure = direct.map(
    (x, n) => directGain * x + diffuseGain * diffuse[n]! + roomNoise * random.normal(),
  );
  filterInPlace(pressure, microphoneSections(microphone, sampleRateHz));
  const selfNoise = noisePa(microphone.selfNoiseDba);
  const volts = dbToAmplitude(microphone.sensitivityDb) * (setup.polarityInverted ? -1 : 1);
  const ein = DBU_V * dbToAmplitude(preamp.einDbu) * Math.sqrt(sampleRateHz / 2 / 20000);
  const gain = dbToAmplitude(Math.min(setup.gainDb, preamp.maxGainDb));
  const top = DBU_V * Math.SQRT2 * dbToAmplitude(preamp.maxOutputDbu);
  // x² of a full sine makes half of itself as second harmonic, x³ a quarter as third.
  const second = 2 * dbToAmplitude(preamp.harmonicsDb[0]);
  const third = 4 * dbToAmplitude(preamp.harmonicsDb[1]);
  const fullScale = DBU_V * Math.SQRT2 * dbToAmplitude(FULL_SCALE_DBU);
  const converterNoise = dbToAmplitude(-CONVERTER_RANGE_DB) / Math.SQRT2;
  const output = pressure.map((pa) => {
    const input = (pa + selfNoise * random.normal()) * volts + ein * random.normal();
    const x = Math.max(-1, Math.min(1, (input * gain) / top));
    return ((x + second * x * x - third * x * x * x) * top) / fullScale;
  });
  filterInPlace(output, [
    designBiquad('highpass', preamp.lowCutHz, sampleRateHz, 0.7),
    designBiquad('lowpass', preamp.highCutHz, sampleRateHz, 0.7),
  ]);
  return output.map((x) => Math.max(-1, Math.min(1, x + converterNoise * random.normal())));
}

/** Decaying dense reflections, equally strong everywhere in the room; relative to 1 m at 1 m. */
function diffuseSound(dry: Float64Array, sampleRateHz: number, room: RoomModel): Float64Array {
  const random = new Random(room.seed);
  const taps = Math.round(room.reverberationS * sampleRateHz);
  const start = Math.round(0.004 * sampleRateHz);
  const tail = new Float64Array(taps);
  let energy = 0;
  for (let n = start; n < taps; n++) {
    tail[n] = random.normal() * Math.exp((-6.91 * n) / taps);
    energy += tail[n]! ** 2;
  }
  const gain = 1 / Math.sqrt(energy);
  for (let n = 0; n < taps; n++) tail[n]! *= gain;
  filterInPlace(tail, [designBiquad('lowpass', 5500, sampleRateHz, 0.6)]);
  const size = nextPowerOfTwo(dry.length + taps);
  const spectrum = spectrumOf(dry, size);
  multiplySpectra(spectrum, spectrumOf(tail, size));
  return inverseReal(spectrum).subarray(0, dry.length);
}

/** Gain that brings a source level to about -18 dBFS, in whole steps of 1 dB, within the preamp's range. */
export function suggestedGainDb(
  levelAt1MDb: number,
  setup: Pick<RecordingSetup, 'microphone' | 'preamp' | 'distanceM'>,
): number {
  const spl = levelAt1MDb - 20 * Math.log10(setup.distanceM);
  const dbu = setup.microphone.sensitivityDb + (spl - 94) + 2.21;
  return Math.min(setup.preamp.maxGainDb, Math.max(0, Math.round(FULL_SCALE_DBU - 18 - dbu)));
}
