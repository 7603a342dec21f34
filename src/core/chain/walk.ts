import { loadingDb, parallelOhm } from './electric';
import { setGainDb } from './gain';
import type { ChainItem } from './item';
import { gearKind, type GearKind } from './kinds';
import { USUAL_FULL_SCALE_DBU } from './kinds/converter';
import type { Assume, KindOfGear, Placed } from './kinds/kind';
import { microphoneStage, soundAt, type SourceAtMic } from './kinds/microphone';
import { TARGET_DBFS } from './target';

const { max } = Math;

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

/** Sine peak over rms. */
const SINE_CREST_DB = 10 * Math.log10(2);

/** What a stage's input presents to whatever feeds it, ohm. */
function inputOhm({ gear: { kind, specs, name } }: ChainItem, assume: Assume): number {
  if (specs.inputImpedanceOhm !== undefined) return specs.inputImpedanceOhm;
  const { usualInputOhm = Infinity } = gearKind(kind);
  if (usualInputOhm !== Infinity) assume(`${name}: input impedance ${usualInputOhm} Ω`);
  return usualInputOhm;
}

/**
 * Load that a source sees: the input of the next stage; through transformers, that load divided by
 * the turns ratio squared, beside the transformer's own input.
 */
function loadOf(items: readonly ChainItem[], from: number, assume: Assume): number {
  const item = items[from];
  if (!item) return Infinity;
  const own = inputOhm(item, assume);
  const { turns } = gearKind(item.gear.kind);
  if (!turns) return own;
  return parallelOhm([own, loadOf(items, from + 1, assume) / turns(item.gear.specs) ** 2]);
}

function roleOf({ gear }: ChainItem): KindOfGear['role'] {
  return gearKind(gear.kind).role;
}

function placed({ gear, settings }: ChainItem): Placed {
  return { ...gear, settings };
}

/**
 * Walks a signal through a chain, stage by stage: level, peak, noise and headroom.
 * Gear beside the signal's way (accessories, capsules) is passed over.
 * @param parallelLoadsOhm other inputs that hang on the same microphone (splitters)
 */
export function walkChain(
  chain: readonly ChainItem[],
  source: SourceAtMic,
  parallelLoadsOhm: readonly number[] = [],
): Ladder {
  const items = chain.filter((item) => roleOf(item) !== 'aside');
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
  if (!first || roleOf(first) !== 'microphone') {
    ladder.incomplete =
      'The chain does not begin with a microphone, so no level can be worked out.';
    return ladder;
  }
  if (rest.some((item) => roleOf(item) === 'microphone')) {
    ladder.incomplete = 'There are two microphones in a row; make them a blend of two chains.';
    return ladder;
  }
  const peakOverAverageDb = source.crestDb - SINE_CREST_DB;

  const mic = placed(first);
  const sound = soundAt(mic, source, assume);
  stages.push({
    name: `${source.distanceM < 1 ? `${Math.round(100 * source.distanceM)} cm` : `${source.distanceM} m`} from the source`,
    kind: 'sound',
    signalDb: sound.splDb,
    peakDb: sound.splDb + peakOverAverageDb,
    noiseDb: sound.roomDba,
    headroomDb: null,
    gainDb: null,
    remark: sound.offAxisDb < -0.05 ? `${sound.offAxisDb.toFixed(1)} dB off axis` : null,
  });
  const loadOhm = parallelOhm([loadOf(rest, 0, assume), ...parallelLoadsOhm]);
  const { loading, ...sensed } = microphoneStage(mic, sound, peakOverAverageDb, loadOhm, assume);
  if (loading) ladder.loading = { loadOhm, dropDb: loading.dropDb, tiltDb: loading.tiltDb };
  let { signalDbu, noiseDbu, sourceOhm } = sensed;
  push(first, null, sensed.headroomDb, loading?.dropDb ?? 0);

  const end = rest.find((item) => roleOf(item) === 'converter');
  const fullScaleDbu = fullScaleOf(end);
  rest.forEach(walkStage);
  finish();
  return ladder;

  function fullScaleOf(item: ChainItem | undefined): number {
    if (item?.gear.specs.fullScaleDbu !== undefined) return item.gear.specs.fullScaleDbu;
    if (item) assume(`${item.gear.name}: full scale ${USUAL_FULL_SCALE_DBU} dBu`);
    return USUAL_FULL_SCALE_DBU;
  }

  function push(
    { gear: { name, kind } }: ChainItem,
    gainDb: number | null,
    headroomDb: number | null,
    loadedByDb: number,
  ): void {
    stages.push({
      name,
      kind,
      signalDb: signalDbu,
      peakDb: signalDbu + peakOverAverageDb,
      noiseDb: noiseDbu,
      headroomDb,
      gainDb,
      remark: loadedByDb < -0.5 ? `${loadedByDb.toFixed(1)} dB by loading` : null,
    });
    if (headroomDb !== null && headroomDb < 0)
      ladder.overloads.push({ stage: name, byDb: -headroomDb });
  }

  function walkStage(item: ChainItem, index: number): void {
    const { stage } = gearKind(item.gear.kind);
    if (!stage) return;
    // The microphone's own loading was taken at its stage; between other stages it is taken here.
    const interstage = index === 0 ? 0 : loadingDb(sourceOhm, loadOf(rest, index, assume));
    const laterGainDb = rest
      .slice(index + 1)
      .reduce((sum, { gear, settings }) => sum + (setGainDb(gear.specs, settings) ?? 0), 0);
    const leaving = stage(placed(item), {
      signalDbu: signalDbu + interstage,
      noiseDbu: noiseDbu + interstage,
      sourceOhm,
      peakOverAverageDb,
      fullScaleDbu,
      laterGainDb,
      assume,
    });
    ({ signalDbu, noiseDbu, sourceOhm } = leaving);
    const { level, gainDb, headroomDb } = leaving;
    if (level && ladder.gainNeededDb === null) {
      ladder.gainNeededDb = level.neededDb;
      ladder.gainUsedDb = level.usedDb;
      ladder.gainByHand = level.byHand;
      ladder.gainMostDb = level.mostDb;
      ladder.shortDb = max(0, level.neededDb - level.mostDb);
    }
    if (roleOf(item) === 'converter') {
      ladder.averageDbfs = signalDbu - fullScaleDbu;
      ladder.peakDbfs = ladder.averageDbfs + peakOverAverageDb;
    }
    push(item, gainDb, headroomDb, interstage);
  }

  function finish(): void {
    if (!end) {
      ladder.incomplete = 'The chain does not end in a converter, so nothing is said of dBFS.';
    } else if (ladder.gainNeededDb === null) {
      const missing = (ladder.averageDbfs ?? 0) - TARGET_DBFS;
      ladder.shortDb = max(0, -missing);
    }
    if (rest.length === 0) return;
    ladder.signalToNoiseDb = signalDbu - noiseDbu;
    ladder.noiseDba = sound.splDb - ladder.signalToNoiseDb;
    ladder.matchedNoiseDba = source.levelAt1MDb - ladder.signalToNoiseDb;
  }
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
    if (!gearKind(item.gear.kind).fixedGainDb) continue;
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
