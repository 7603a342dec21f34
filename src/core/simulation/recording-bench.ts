import type { ChainItem } from '@/core/chain/item';
import { gearKind } from '@/core/chain/kinds';
import { PATTERN_NAMES, PATTERNS, specsAs } from '@/core/chain/specs';
import { gainRange, setGainDb } from '@/core/chain/gain';
import { designBiquad, filterInPlace } from '@/core/signal/biquad';
import { pinkNoise } from '@/core/signal/noise';
import { hash32, Random } from '@/core/signal/random';
import { dbToAmplitude, meanSquare } from '@/core/signal/units';
import { performance } from './instruments';
import { type MicrophoneModel, MICROPHONES } from './microphones';
import { type PreampModel, PREAMPS } from './preamps';
import { recordTake, type RoomModel, SMALL_STUDIO, suggestedGainDb } from './record';
import type { InstrumentName } from './score';

const REFERENCE_PA = 2e-5;
/** Levels of what is played or done at the stand, dB SPL at 1 m. */
const USUAL_LEVEL_DB = 74;
const TEST_SOUND_DB = 76;
const STEADY_NOISE_DB = 52;
const PLOSIVE_DB = 88;
const KNOCK_DB = 84;
/** A performer is never equally loud twice, dB. */
const REPEAT_SPREAD_DB = 0.7;
const SHORT_S = 5;
/** Peak of the converter stand-in's full scale, +18 dBu. */
const FULL_SCALE_V = 0.7745966692 * Math.SQRT2 * dbToAmplitude(18);
const ONE_KHZ = 1000;

const { max, min, PI, round, sin } = Math;

export const BARE_ROOM: RoomModel = {
  reverberationS: 0.75,
  criticalDistanceM: 0.7,
  noiseDba: 27,
  seed: 29,
};
export const BENCH_ROOMS = { treated: SMALL_STUDIO, bare: BARE_ROOM } as const;
export type BenchRoom = keyof typeof BENCH_ROOMS;

/** One recording that the simulated bench shall make. */
export interface BenchTake {
  programme: string;
  detail: string;
  instrument: InstrumentName;
  distanceM: number;
  angleDeg: number;
  room: BenchRoom;
  /** Which performance: chains that record at once share it. */
  performanceSeed: number;
  /** Of noise and small accidents. */
  seed: number;
  /** Somebody bumps into the stand. */
  knock: boolean;
}

type Response = MicrophoneModel['response'];
const USUAL_RESPONSE: Record<string, Response> = {
  condenser: [
    ['highpass', 30, 0.7, 0],
    ['bell', 9500, 0.9, 2.5],
    ['lowpass', 19000, 0.8, 0],
  ],
  'valve condenser': [
    ['highpass', 26, 0.7, 0],
    ['lowshelf', 200, 0.7, 1.2],
    ['bell', 8000, 0.8, 2],
    ['lowpass', 17500, 0.7, 0],
  ],
  ribbon: [
    ['highpass', 34, 0.7, 0],
    ['highshelf', 7000, 0.7, -5.5],
    ['lowpass', 15500, 0.7, 0],
  ],
  'moving coil': [
    ['highpass', 60, 0.7, 0],
    ['bell', 4300, 1, 3.5],
    ['lowpass', 13500, 1, 0],
  ],
};

function microphoneOf({ gear, settings }: ChainItem): MicrophoneModel {
  const known = MICROPHONES.find(({ name }) => name === gear.name);
  const specs = specsAs(gear.specs, settings.pattern);
  const type = specs.type ?? 'condenser';
  const plain = type === 'active ribbon' ? 'ribbon' : type;
  const pattern = settings.pattern ?? specs.patterns?.[0];
  const base: MicrophoneModel = known ?? {
    name: gear.name,
    kind: plain,
    pattern: 0.5,
    sensitivityDb: specs.sensitivityDb ?? (type === 'condenser' ? -36 : -55),
    selfNoiseDba: specs.selfNoiseDba ?? 16,
    flatAtM: 0.6,
    response: USUAL_RESPONSE[plain] ?? USUAL_RESPONSE.condenser!,
  };
  return {
    ...base,
    pattern: pattern ? PATTERNS[pattern] : base.pattern,
    sensitivityDb: base.sensitivityDb - (settings.padDb ?? 0),
    response: settings.highPassHz
      ? [...base.response, ['highpass', settings.highPassHz, 0.7, 0]]
      : base.response,
  };
}

function preampOf(items: readonly ChainItem[]): { preamp: PreampModel; setDb: number | null } {
  const item = items.find(({ gear }) => gearKind(gear.kind).amplifies);
  const specs = item?.gear.specs ?? {};
  const known = PREAMPS.find(({ name }) => name === item?.gear.name);
  const preamp = known ?? {
    name: item?.gear.name ?? 'preamp',
    maxGainDb: gainRange(specs)?.[1] ?? 60,
    einDbu: specs.einDbu ?? -125,
    harmonicsDb: [-80, -86],
    lowCutHz: 10,
    highCutHz: 45_000,
    maxOutputDbu: specs.maxOutputDbu ?? 20,
  };
  return { preamp, setDb: item ? setGainDb(specs, item.settings) : null };
}

/** Fixed gain between microphone and preamp: boosters up, pads down, transformers by their turns. */
function betweenDb(items: readonly ChainItem[]): number {
  return items.reduce(
    (sum, { gear: { kind, specs } }) => sum + (gearKind(kind).fixedGainDb?.(specs) ?? 0),
    0,
  );
}

/** Why the bench cannot record a chain, in a sentence; null when it can. */
export function benchFault(items: readonly ChainItem[]): string | null {
  const kinds = items.map(({ gear }) => gearKind(gear.kind));
  if (!kinds.some(({ role }) => role === 'microphone'))
    return 'has no microphone of the gear list in it';
  return kinds.some(({ amplifies }) => amplifies) ? null : 'has no preamp of the gear list in it';
}

/**
 * Records one take through a chain of the gear list: made-up source, room, microphone, preamp,
 * converter; deterministic from its seeds. Ribbons come out the other way round, as some do.
 * @returns samples, ±1 = full scale
 */
export function benchRecording(
  items: readonly ChainItem[],
  take: BenchTake,
  sampleRateHz: number,
): { samples: Float64Array; gainDb: number } {
  const microphone = items.find(({ gear }) => gear.kind === 'microphone');
  if (!microphone) throw new RangeError('a chain without a microphone cannot record');
  const random = Random.derived(take.seed, `${take.programme} ${take.detail}`);
  const plain = microphoneOf(microphone);
  const { preamp, setDb } = preampOf(items);
  const between = betweenDb(items);
  const own: MicrophoneModel = {
    ...plain,
    sensitivityDb: plain.sensitivityDb + between,
    ...switched(plain, take),
  };
  const gainDb =
    setDb ??
    suggestedGainDb(USUAL_LEVEL_DB, { microphone: own, preamp, distanceM: take.distanceM });
  const silent = take.programme === 'resistor';
  const pressure = pressureOf(take, sampleRateHz);
  const distanceM = take.programme === 'distance' ? spokenAtM(take.detail) : take.distanceM;
  const angleDeg = take.programme === 'off-axis' ? Number(take.detail) || 0 : take.angleDeg;
  const room =
    take.programme === 'treatment' && take.detail === 'untreated'
      ? BARE_ROOM
      : BENCH_ROOMS[take.room];
  const samples = recordTake(pressure, sampleRateHz, {
    microphone: silent ? { ...own, sensitivityDb: own.sensitivityDb - 200 } : own,
    preamp,
    gainDb,
    distanceM,
    angleDeg,
    room,
    polarityInverted: plain.kind === 'ribbon',
    seed: take.seed,
  });
  const stand = knocksAt(take, samples.length / sampleRateHz, random);
  const knockGain =
    (REFERENCE_PA * dbToAmplitude(KNOCK_DB + own.sensitivityDb + gainDb)) / FULL_SCALE_V;
  addKnocks(samples, sampleRateHz, stand, knockGain);
  return { samples: samples.map((x) => max(-1, min(1, x))), gainDb };
}

/** Distance by a step's detail in centimetres; touching is two. */
function spokenAtM(detail: string): number {
  const cm = Number(detail);
  return detail !== '' && Number.isFinite(cm) ? max(0.02, cm / 100) : 0.3;
}

/** What a switch, a pad, a windscreen or another pattern does to the microphone. */
function switched(model: MicrophoneModel, take: BenchTake): Partial<MicrophoneModel> {
  if (take.programme === 'pattern') {
    const named = PATTERN_NAMES.find((name) => name === take.detail.toLowerCase());
    return named ? { pattern: PATTERNS[named] } : {};
  }
  if (take.programme !== 'switch') return {};
  const what = take.detail.toLowerCase();
  if (what.includes('pad')) return { sensitivityDb: model.sensitivityDb - 10 };
  if (what.includes('cut') || what.includes('pass')) {
    return { response: [...model.response, ['highpass', 90, 0.7, 0]] };
  }
  return { response: [...model.response, ['highshelf', 7500, 0.7, -1.6]] };
}

function level(samples: Float64Array, spl: number): Float64Array {
  const power = meanSquare([samples]);
  const gain = power > 0 ? (REFERENCE_PA * dbToAmplitude(spl)) / Math.sqrt(power) : 0;
  return samples.map((x) => gain * x);
}

/** Sound pressure at 1 m, pascal, for a step of the programme. */
function pressureOf(take: BenchTake, sampleRateHz: number): Float64Array {
  const length = round(SHORT_S * sampleRateHz);
  // The loudspeaker plays the same noise every time.
  const same = new Random(4711);
  switch (take.programme) {
    case 'performance': {
      const random = Random.derived(take.performanceSeed, 'level');
      const gain = dbToAmplitude(REPEAT_SPREAD_DB * random.normal());
      return performance(take.instrument, sampleRateHz, take.performanceSeed).map((x) => gain * x);
    }
    case 'technique':
      // Another way to play is another playing.
      return performance(
        take.instrument,
        sampleRateHz,
        hash32(`${take.performanceSeed} ${take.detail}`) >>> 0,
      );
    case 'speech':
    case 'distance':
    case 'treatment':
      return performance('contralto', sampleRateHz, 17).subarray(0, length);
    case 'off-axis':
    case 'switch':
    case 'pattern':
    case 'gain-stage':
    case 'tone':
      return level(pinkNoise(length, same), TEST_SOUND_DB);
    case 'noise':
      return level(pinkNoise(length, new Random(815)), STEADY_NOISE_DB);
    case 'plosives':
      return plosives(length, sampleRateHz, Random.derived(take.performanceSeed, 'plosives'));
    default:
      return new Float64Array(length);
  }
}

/** Ten puffs of air, low and short. */
function plosives(length: number, sampleRateHz: number, random: Random): Float64Array {
  const out = new Float64Array(length);
  const peak = REFERENCE_PA * dbToAmplitude(PLOSIVE_DB);
  for (let i = 0; i < 10; i++) {
    const start = round(((i + 0.3 + 0.2 * random.uniform()) * length) / 10);
    const hz = 28 + 25 * random.uniform();
    for (let n = 0; n < 0.12 * sampleRateHz && start + n < length; n++) {
      const t = n / sampleRateHz;
      out[start + n]! += peak * Math.exp(-t / 0.025) * sin(2 * PI * hz * t);
    }
  }
  return filterInPlace(out, [designBiquad('lowpass', ONE_KHZ, sampleRateHz, 0.7)]);
}

function knocksAt(take: BenchTake, seconds: number, random: Random): number[] {
  if (take.programme === 'knocks') return [0.5, 1.3, 2.1, 2.9, 3.7];
  return take.knock ? [seconds * (0.2 + 0.6 * random.uniform())] : [];
}

/** What comes through the stand does not pass the air. */
function addKnocks(
  samples: Float64Array,
  sampleRateHz: number,
  atS: readonly number[],
  gain: number,
): void {
  for (const at of atS) {
    const start = round(at * sampleRateHz);
    for (let n = 0; n < 0.3 * sampleRateHz && start + n < samples.length; n++) {
      const t = n / sampleRateHz;
      const body = sin(2 * PI * 47 * t) + 0.4 * sin(2 * PI * 131 * t);
      samples[start + n]! += gain * Math.exp(-t / 0.06) * body;
    }
  }
}
