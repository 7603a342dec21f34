import type { CurvePoint, GearSpecs, ItemSettings, SpecName } from '../specs';

/** Takes note of what had to be assumed because a data sheet says nothing, as a phrase. */
export type Assume = (text: string) => void;

/** An item as its kind looks at it: what is known of it, and how it is set. */
export interface Placed {
  name: string;
  specs: GearSpecs;
  settings: ItemSettings;
  impedanceCurve?: readonly CurvePoint[];
}

/** What reaches a stage. Levels in dBu: the average of the signal, and all noise so far, A-weighted. */
export interface Reaching {
  signalDbu: number;
  noiseDbu: number;
  /** Impedance that the stage is fed from. */
  sourceOhm: number;
  /** From the average to the sine with the same peak, dB. */
  peakOverAverageDb: number;
  /** Of the converter at the end of the chain. */
  fullScaleDbu: number;
  /** Gain that is set by hand in the stages after this one, dB. */
  laterGainDb: number;
  assume: Assume;
}

/** What leaves a stage: the same, and what it did. */
export interface Leaving {
  signalDbu: number;
  noiseDbu: number;
  sourceOhm: number;
  gainDb: number;
  /** Room above the peak before it overloads, dB; null where no limit is known. */
  headroomDb: number | null;
  /** For a stage that brings a chain to level: what that takes, what it is set to, the most it has, dB. */
  level?: { neededDb: number; usedDb: number; byHand: boolean; mostDb: number };
}

/** One kind of gear: everything that the plan, the ladder, the gear list and the bench ask of it. */
export interface KindOfGear<Id extends string = string> {
  id: Id;
  /** What it is called where two chains differ by it. */
  link: string;
  /** Specs that it can have. */
  specs: readonly SpecName[];
  /** Where sound meets it: turned into a voltage, on its way, made a number, or not at all. */
  role: 'microphone' | 'stage' | 'converter' | 'aside';
  /** Input impedance where no data sheet says it, ohm; infinite where it shows what comes after it. */
  usualInputOhm?: number;
  /** By how much what comes after it is multiplied in voltage and divided, squared, in load; else it is a wall. */
  turns?: (specs: GearSpecs) => number;
  /** What it does to the signal; a microphone's beginning is `microphoneStage`. */
  stage?: (item: Placed, reaching: Reaching) => Leaving;
  /** Gain that it has without a hand on it, dB, where it stands between microphone and preamp. */
  fixedGainDb?: (specs: GearSpecs) => number;
  /** Whether it brings a microphone to level, so that a recording can be made with it. */
  amplifies?: true;
  /** Can feed phantom power to what hangs on it. */
  feedsPhantom?: true;
  /** Has switches worth a word in a chain. */
  hasSwitches?: true;
  /** Takes a measured frequency response or impedance. */
  takesCurves?: true;
  /** Belongs into a name made of the gear. */
  namesChain?: true;
}
