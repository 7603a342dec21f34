import { amplitudeToDb } from '@/core/signal/units';
import { polarGain, roomPickupDb, splAtDb } from './acoustics';
import {
  A_WEIGHTED_WHITE_DB,
  addPowersDb,
  DBV_IN_DBU,
  inputNoiseDbu,
  loadingDb,
  parallelOhm,
  thermalNoiseDbu,
} from './electric';
import { isPassive, loadingEffect, microphoneImpedance } from './impedance';
import {
  type ChainItem,
  type GearKind,
  type GearSpecs,
  type ItemSettings,
  PATTERNS,
} from './specs';

const { max, min } = Math;

/** How the source is heard by the microphone. */
export interface SourceAtMic {
  /** Average (long-term rms) level at 1 m, dB SPL. */
  levelAt1MDb: number;
  /** Sample peak over rms, dB; 3 for a sine, 12 to 20 for voices and instruments. */
  crestDb: number;
  distanceM: number;
  angleDeg: number;
  /** Background of the room at an omni, dBA; null when not known. */
  roomNoiseDba: number | null;
}

export interface Stage {
  name: string;
  kind: GearKind | 'sound';
  /** Average level at the output of the stage: dB SPL for the sound, dBu after. */
  signalDb: number;
  /** The sine with the same peak: average + crest - 3.01 dB. */
  peakDb: number;
  /** All noise so far at this point, A-weighted, same unit; null for the sound without a room noise. */
  noiseDb: number | null;
  /** Room above the peak before this stage overloads, dB; null where no limit is known. */
  headroomDb: number | null;
  /** Gain from the stage before, dB; null for sound to voltage. */
  gainDb: number | null;
  remark: string | null;
}

export interface Ladder {
  stages: Stage[];
  /** What was assumed because specs are missing, as sentences. */
  assumed: string[];
  /** Why there is no ladder to the end; the stages go as far as they can. */
  incomplete: string | null;
  /** Sine-equivalent average and true sample peak at the converter, dBFS. */
  averageDbfs: number | null;
  peakDbfs: number | null;
  gainNeededDb: number | null;
  /** What the first gain stage is set to: by hand, else the nearest it can be set to. */
  gainUsedDb: number | null;
  gainByHand: boolean;
  gainMostDb: number | null;
  /** Missing gain to reach the target, dB; 0 when it is reached. */
  shortDb: number;
  /** Stages whose peak is over their limit, and by how much. */
  overloads: { stage: string; byDb: number }[];
  /** Signal to noise at the end, dB (A-weighted noise, average signal). */
  signalToNoiseDb: number | null;
  /** Equivalent noise at the microphone, dBA. */
  noiseDba: number | null;
  /**
   * The same when every chain is brought to one loudness: as if heard at 1 m from the source, dBA.
   * What a farther or quieter chain gets as make-up gain lifts its noise by as much.
   */
  matchedNoiseDba: number | null;
  /** What the load of the first input does to a passive microphone. */
  loading: { loadOhm: number; dropDb: number; tiltDb: number } | null;
}

/** Average level that recording aims at, and what peaks should stay under, dBFS. */
export const TARGET_DBFS = -18;
export const PEAK_TARGET_DBFS = -10;
/** Sine peak over rms. */
const SINE_CREST_DB = 10 * Math.log10(2);

const USUAL = {
  sensitivityDb: { passive: -55, powered: -36 },
  selfNoiseDba: 16,
  inputImpedanceOhm: 1500,
  lineInputOhm: 10_000,
  einDbu: -125,
  einSourceOhm: 150,
  fullScaleDbu: 18,
  dynamicRangeDb: 110,
  maxOutputDbu: 20,
  lineNoiseDbu: -90,
  preampGainDb: [0, 60],
} as const;

/** Gains that a stage can be set to, as its data sheet says; null when it says nothing. */
export function gainRange(specs: GearSpecs): [number, number] | null {
  if (specs.knob && specs.knob.length > 0) {
    const gains = specs.knob.map(({ gainDb }) => gainDb);
    return [min(...gains), max(...gains)];
  }
  if (specs.maxGainDb === undefined) return null;
  return [specs.minGainDb ?? min(0, specs.maxGainDb), specs.maxGainDb];
}

/** The nearest gain that can be set: a knob position, a step, or anything in the range. */
export function settableGainDb(specs: GearSpecs, wantedDb: number): number {
  const range = gainRange(specs) ?? USUAL.preampGainDb;
  const held = min(range[1], max(range[0], wantedDb));
  if (specs.knob && specs.knob.length > 0) {
    const below = specs.knob.map(({ gainDb }) => gainDb).filter((gain) => gain <= held);
    return max(range[0], ...below);
  }
  if (!specs.gainStepDb) return held;
  return range[0] + specs.gainStepDb * Math.floor((held - range[0]) / specs.gainStepDb + 1e-9);
}

/** The gain that a stage is set to, by number or by the position of its knob; null when it is not. */
export function setGainDb(specs: GearSpecs, settings: ItemSettings): number | null {
  const marked = specs.knob?.find(({ position }) => position === settings.knobPosition);
  return marked?.gainDb ?? settings.gainDb ?? null;
}

/** What a stage's input presents to whatever feeds it, ohm. */
function inputOhm(item: ChainItem, assume: (text: string) => void): number {
  const { kind, specs, name } = item.gear;
  if (specs.inputImpedanceOhm !== undefined) return specs.inputImpedanceOhm;
  if (kind === 'transformer') return Infinity;
  const usual =
    kind === 'strip' || kind === 'converter' ? USUAL.lineInputOhm : USUAL.inputImpedanceOhm;
  assume(`${name}: input impedance ${usual} Ω`);
  return usual;
}

/**
 * Load that a source sees: the input of the next stage; through transformers, that load divided by
 * the turns ratio squared, beside the transformer's own input.
 */
function loadOf(items: readonly ChainItem[], from: number, assume: (text: string) => void): number {
  const item = items[from] as ChainItem | undefined;
  if (!item) return Infinity;
  const own = inputOhm(item, assume);
  if (item.gear.kind !== 'transformer') return own;
  const turns = item.gear.specs.turnsRatio ?? 1;
  return parallelOhm([own, loadOf(items, from + 1, assume) / turns ** 2]);
}

/**
 * Walks a signal through a chain, stage by stage: level, peak, noise and headroom.
 * Accessories and capsules carry no signal of their own here.
 * @param parallelLoadsOhm other inputs that hang on the same microphone (splitters)
 */
export function walkChain(
  chain: readonly ChainItem[],
  source: SourceAtMic,
  parallelLoadsOhm: readonly number[] = [],
): Ladder {
  const items = chain.filter(({ gear }) => gear.kind !== 'accessory' && gear.kind !== 'capsule');
  const assumed: string[] = [];
  const assume = (text: string) => {
    if (!assumed.includes(text)) assumed.push(text);
  };
  const stages: Stage[] = [];
  const ladder: Ladder = {
    stages,
    assumed,
    incomplete: null,
    averageDbfs: null,
    peakDbfs: null,
    gainNeededDb: null,
    gainUsedDb: null,
    gainByHand: false,
    gainMostDb: null,
    shortDb: 0,
    overloads: [],
    signalToNoiseDb: null,
    noiseDba: null,
    matchedNoiseDba: null,
    loading: null,
  };
  const [first, ...rest] = items;
  if (first?.gear.kind !== 'microphone') {
    ladder.incomplete =
      'The chain does not begin with a microphone, so no level can be worked out.';
    return ladder;
  }
  if (rest.some(({ gear }) => gear.kind === 'microphone')) {
    ladder.incomplete = 'There are two microphones in a row; make them a blend of two chains.';
    return ladder;
  }
  const peakOverAverageDb = source.crestDb - SINE_CREST_DB;

  // Sound at the microphone.
  const mic = first.gear;
  const pattern = first.settings.pattern ?? mic.specs.patterns?.[0];
  if (!pattern) assume(`${mic.name}: cardioid`);
  const p = PATTERNS[pattern ?? 'cardioid'];
  const offAxisDb = max(-60, amplitudeToDb(polarGain(p, source.angleDeg)));
  const spl = splAtDb(source.levelAt1MDb, source.distanceM) + offAxisDb;
  const roomDba = source.roomNoiseDba === null ? null : source.roomNoiseDba + roomPickupDb(p);
  stages.push({
    name: `${source.distanceM < 1 ? `${Math.round(100 * source.distanceM)} cm` : `${source.distanceM} m`} from the source`,
    kind: 'sound',
    signalDb: spl,
    peakDb: spl + peakOverAverageDb,
    noiseDb: roomDba,
    headroomDb: null,
    gainDb: null,
    remark: offAxisDb < -0.05 ? `${offAxisDb.toFixed(1)} dB off axis` : null,
  });

  // Microphone, open circuit, then loaded.
  const passive = isPassive(mic.specs);
  const padDb = first.settings.padDb ?? 0;
  const usualDb = passive ? USUAL.sensitivityDb.passive : USUAL.sensitivityDb.powered;
  if (mic.specs.sensitivityDb === undefined)
    assume(`${mic.name}: sensitivity ${usualDb} dB re 1 V/Pa`);
  const sensitivityDb = (mic.specs.sensitivityDb ?? usualDb) - padDb;
  const impedance = microphoneImpedance(mic.specs, mic.impedanceCurve);
  if (impedance.assumed) assume(`${mic.name}: ${impedance.assumed}`);
  const load = parallelOhm([loadOf(rest, 0, assume), ...parallelLoadsOhm]);
  const effect = Number.isFinite(load) ? loadingEffect(impedance.at, load) : null;
  const loadedBy = effect?.dropDb ?? 0;
  if (effect) ladder.loading = { loadOhm: load, dropDb: effect.dropDb, tiltDb: effect.tiltDb };
  const toDbu = (dbSpl: number) => sensitivityDb + (dbSpl - 94) + DBV_IN_DBU + loadedBy;
  let selfDbu: number;
  if (mic.specs.selfNoiseDba !== undefined) {
    // A pad sits behind the capsule's amplifier noise or before it; before is the worse case.
    selfDbu = toDbu(mic.specs.selfNoiseDba + padDb);
  } else if (passive) {
    selfDbu = thermalNoiseDbu(impedance.at(1000).re) + A_WEIGHTED_WHITE_DB + loadedBy;
  } else {
    assume(`${mic.name}: self-noise ${USUAL.selfNoiseDba} dBA`);
    selfDbu = toDbu(USUAL.selfNoiseDba + padDb);
  }
  let signal = toDbu(spl);
  let noise = addPowersDb(roomDba === null ? [selfDbu] : [selfDbu, toDbu(roomDba)]);
  let sourceOhm = impedance.nominalOhm;
  push(mic.name, 'microphone', null, {
    headroomDb:
      mic.specs.maxSplDb === undefined
        ? null
        : mic.specs.maxSplDb + padDb - (spl + peakOverAverageDb),
    remark: loadingRemark(loadedBy),
  });

  const converter = rest.findIndex(({ gear }) => gear.kind === 'converter');
  const fullScaleDbu = fullScaleOf(rest[converter]);
  for (let i = 0; i < rest.length; i++) walkStage(rest[i], i);
  finish();
  return ladder;

  function fullScaleOf(item: ChainItem | undefined): number {
    if (item?.gear.specs.fullScaleDbu !== undefined) return item.gear.specs.fullScaleDbu;
    if (item) assume(`${item.gear.name}: full scale ${USUAL.fullScaleDbu} dBu`);
    return USUAL.fullScaleDbu;
  }

  function push(
    name: string,
    kind: GearKind,
    gainDb: number | null,
    rest: { headroomDb: number | null; remark?: string | null },
  ): void {
    const { headroomDb, remark = null } = rest;
    const peakDb = signal + peakOverAverageDb;
    stages.push({
      name,
      kind,
      signalDb: signal,
      peakDb,
      noiseDb: noise,
      headroomDb,
      gainDb,
      remark,
    });
    if (headroomDb !== null && headroomDb < 0)
      ladder.overloads.push({ stage: name, byDb: -headroomDb });
  }

  function walkStage({ gear, settings }: ChainItem, index: number): void {
    const { specs, kind, name } = gear;
    const peak = signal + peakOverAverageDb;
    const inputRoom = specs.maxInputDbu === undefined ? null : specs.maxInputDbu - peak;
    // The microphone's own loading was taken at its stage; between other stages it is taken here.
    const interstage = index === 0 ? 0 : loadingDb(sourceOhm, loadOf(rest, index, assume));
    signal += interstage;
    noise += interstage;
    if (kind === 'pad' || kind === 'transformer') {
      const change =
        kind === 'pad'
          ? -(specs.attenuationDb ?? 20)
          : amplitudeToDb(specs.turnsRatio ?? 1) - (specs.insertionLossDb ?? 0);
      if (kind === 'pad' && specs.attenuationDb === undefined) assume(`${name}: attenuation 20 dB`);
      const turns = kind === 'transformer' ? (specs.turnsRatio ?? 1) : 1;
      sourceOhm = specs.outputImpedanceOhm ?? sourceOhm * turns ** 2;
      signal += change;
      // A pad cannot go below the thermal noise of what it presents.
      noise = max(noise + change, thermalNoiseDbu(sourceOhm) + A_WEIGHTED_WHITE_DB);
      push(name, kind, change, { headroomDb: inputRoom, remark: loadingRemark(interstage) });
      return;
    }
    if (kind === 'converter') {
      const gain = setGainDb(specs, settings) ?? 0;
      signal += gain;
      if (specs.dynamicRangeDb === undefined)
        assume(`${name}: dynamic range ${USUAL.dynamicRangeDb} dB`);
      const floor = fullScaleDbu - (specs.dynamicRangeDb ?? USUAL.dynamicRangeDb);
      noise = addPowersDb([noise + gain, floor]);
      ladder.averageDbfs = signal - fullScaleDbu;
      ladder.peakDbfs = ladder.averageDbfs + peakOverAverageDb;
      push(name, kind, gain, {
        headroomDb: -ladder.peakDbfs,
        remark: loadingRemark(interstage),
      });
      return;
    }
    const gain = gainOf({ gear, settings }, index);
    const stageNoise = kind === 'strip' ? lineNoise(name, specs) - gain : einOf(name, specs);
    noise = addPowersDb([noise, stageNoise]) + gain;
    signal += gain;
    sourceOhm = specs.outputImpedanceOhm ?? 75;
    if (specs.maxOutputDbu === undefined) assume(`${name}: max output ${USUAL.maxOutputDbu} dBu`);
    const outputRoom = (specs.maxOutputDbu ?? USUAL.maxOutputDbu) - (signal + peakOverAverageDb);
    push(name, kind, gain, {
      remark: loadingRemark(interstage),
      headroomDb: inputRoom === null ? outputRoom : min(inputRoom, outputRoom),
    });
  }

  function lineNoise(name: string, specs: GearSpecs): number {
    if (specs.outputNoiseDbu === undefined)
      assume(`${name}: output noise ${USUAL.lineNoiseDbu} dBu(A)`);
    return specs.outputNoiseDbu ?? USUAL.lineNoiseDbu;
  }

  /** A-weighted noise of an input alone; the source's thermal noise is in the source. */
  function einOf(name: string, specs: GearSpecs): number {
    if (specs.einDbu === undefined) assume(`${name}: EIN ${USUAL.einDbu} dBu`);
    const sourceOhmStated = specs.einSourceOhm ?? USUAL.einSourceOhm;
    const own = inputNoiseDbu({
      einDbu: specs.einDbu ?? USUAL.einDbu,
      weighting: specs.einWeighting ?? 'unweighted',
      bandwidthHz: specs.einBandwidthHz ?? 20_000,
      sourceOhm: sourceOhmStated,
    });
    if (own !== null) return own + A_WEIGHTED_WHITE_DB;
    assume(
      `${name}: its EIN lies below the thermal noise of ${sourceOhmStated} Ω; read as for a shorted input`,
    );
    return (specs.einDbu ?? USUAL.einDbu) + (specs.einWeighting === 'A' ? 0 : A_WEIGHTED_WHITE_DB);
  }

  /** As set; else the preamp takes what is still needed, and other stages their least. */
  function gainOf({ gear, settings }: ChainItem, index: number): number {
    const set = setGainDb(gear.specs, settings);
    const range = gainRange(gear.specs);
    if (gear.kind === 'booster') {
      if (range === null && set === null) assume(`${gear.name}: gain 20 dB`);
      return set ?? range?.[1] ?? 20;
    }
    if (gear.kind === 'strip') return set ?? 0;
    if (range === null) {
      assume(`${gear.name}: gain ${USUAL.preampGainDb[0]} to ${USUAL.preampGainDb[1]} dB`);
    }
    const [, most] = range ?? USUAL.preampGainDb;
    const later = rest
      .slice(index + 1)
      .reduce((sum, item) => sum + (setGainDb(item.gear.specs, item.settings) ?? 0), 0);
    const needed = fullScaleDbu + TARGET_DBFS - signal - later;
    const used = set ?? settableGainDb(gear.specs, needed);
    if (ladder.gainNeededDb === null) {
      ladder.gainNeededDb = needed;
      ladder.gainUsedDb = used;
      ladder.gainByHand = set !== null;
      ladder.gainMostDb = most;
      ladder.shortDb = max(0, needed - most);
    }
    return used;
  }

  function finish(): void {
    if (converter === -1) {
      ladder.incomplete = 'The chain does not end in a converter, so nothing is said of dBFS.';
    } else if (ladder.gainNeededDb === null) {
      const missing = (ladder.averageDbfs ?? 0) - TARGET_DBFS;
      ladder.shortDb = max(0, -missing);
    }
    if (rest.length === 0) return;
    ladder.signalToNoiseDb = signal - noise;
    ladder.noiseDba = spl - ladder.signalToNoiseDb;
    ladder.matchedNoiseDba = source.levelAt1MDb - ladder.signalToNoiseDb;
  }
}

/** Said of a stage whose level is less than its gain makes it. */
function loadingRemark(byDb: number): string | null {
  return byDb < -0.5 ? `${byDb.toFixed(1)} dB by loading` : null;
}

/**
 * What each transformer, pad or booster between microphone and preamp does to the microphone's load:
 * the walk with and without it, as sentences.
 */
export function loadingNotes(chain: readonly ChainItem[], source: SourceAtMic): string[] {
  const { loading } = walkChain(chain, source);
  if (!loading) return [];
  const said = ({ loadOhm, dropDb, tiltDb }: NonNullable<Ladder['loading']>) =>
    `${Math.round(loadOhm)} Ω takes ${(-dropDb).toFixed(1)} dB and bends the response by ${tiltDb.toFixed(1)} dB`;
  const notes = [`Loading: ${said(loading)}.`];
  for (const item of chain) {
    if (!['transformer', 'pad', 'booster'].includes(item.gear.kind)) continue;
    const without = walkChain(
      chain.filter((other) => other !== item),
      source,
    ).loading;
    if (without) notes.push(`Without ${item.gear.name}: ${said(without)}.`);
  }
  return notes;
}

/** Whether the chain reaches level without overload; a shortage under 1 dB is no shortage. */
export function feasible(ladder: Ladder): boolean {
  return ladder.incomplete === null && ladder.shortDb < 1 && ladder.overloads.length === 0;
}

/** What the ladder says, in one sentence. */
export function ladderFinding(ladder: Ladder): string {
  if (ladder.incomplete) return ladder.incomplete;
  const [overload] = ladder.overloads;
  if (overload) {
    return `${overload.stage} overloads: peaks are ${overload.byDb.toFixed(1)} dB over what it takes.`;
  }
  if (ladder.shortDb >= 1) {
    return `${Math.round(ladder.shortDb)} dB short: no more gain.`;
  }
  const { gainNeededDb, gainUsedDb, gainByHand, gainMostDb } = ladder;
  const noise = `noise ${(ladder.matchedNoiseDba ?? 0).toFixed(1)} dBA at matched loudness`;
  if (gainNeededDb === null || gainUsedDb === null || gainMostDb === null) {
    return `Reaches level; ${noise}.`;
  }
  const of = `of ${gainMostDb.toFixed(0)} dB gain; ${noise}.`;
  const offDb = gainUsedDb - gainNeededDb;
  if (Math.abs(offDb) < 1) return `Reaches level with ${gainUsedDb.toFixed(1)} dB ${of}`;
  if (!gainByHand) {
    return `Reaches level with ${gainUsedDb.toFixed(1)} dB, the setting below ${gainNeededDb.toFixed(1)}, ${of}`;
  }
  const side = offDb < 0 ? 'under' : 'over';
  return `Set to ${gainUsedDb.toFixed(1)} dB it comes ${Math.abs(offDb).toFixed(1)} dB ${side} level; ${gainNeededDb.toFixed(1)} dB ${of}`;
}
