export const MICROPHONE_TYPES = [
  'condenser',
  'valve condenser',
  'ribbon',
  'active ribbon',
  'moving coil',
] as const;
export type MicrophoneType = (typeof MICROPHONE_TYPES)[number];

export const POWERINGS = ['passive', 'phantom', 'own supply'] as const;

/** First-order patterns by p in p + (1-p)·cos θ. */
export const PATTERNS = {
  omni: 1,
  'wide cardioid': 0.67,
  cardioid: 0.5,
  supercardioid: 0.37,
  hypercardioid: 0.25,
  'figure-eight': 0,
} as const;
export type PatternName = keyof typeof PATTERNS;
export const PATTERN_NAMES = Object.keys(PATTERNS) as PatternName[];

export const EIN_WEIGHTINGS = ['unweighted', 'A'] as const;

/** One point of a measured curve: frequency, value (dB or ohm), and phase in degrees where given. */
export type CurvePoint = readonly [hz: number, value: number, phaseDeg?: number];

/** Figures of a microphone in one of its patterns. */
export interface PatternFigures {
  pattern: PatternName;
  sensitivityDb?: number;
  selfNoiseDba?: number;
  maxSplDb?: number;
}

/** Figures that a pattern may have of its own, in the order in which they are written. */
export const PATTERN_FIGURES = ['sensitivityDb', 'selfNoiseDba', 'maxSplDb'] as const;

/** What is known of an item. Anything may be missing; what is then assumed is said by whoever computes. */
export interface GearSpecs {
  // Microphones
  type?: MicrophoneType;
  powering?: (typeof POWERINGS)[number];
  patterns?: PatternName[];
  /** Open circuit, dB re 1 V/Pa. */
  sensitivityDb?: number;
  /** Equivalent sound level of its own noise, dBA. */
  selfNoiseDba?: number;
  /** Sound pressure level of a sine at the stated distortion, dB SPL. */
  maxSplDb?: number;
  maxSplThdPct?: number;
  /** Where a pattern has figures of its own; what it does not say is as stated above. */
  perPattern?: PatternFigures[];
  /** Coil: where it resonates, and its inductance. */
  resonanceHz?: number;
  resonanceOhm?: number;
  resonanceQ?: number;
  inductanceMh?: number;
  // Anything with an output or an input
  outputImpedanceOhm?: number;
  inputImpedanceOhm?: number;
  padsDb?: number[];
  highPassHz?: number[];
  maxInputDbu?: number;
  maxOutputDbu?: number;
  // Gain stages
  minGainDb?: number;
  maxGainDb?: number;
  gainStepDb?: number;
  /** Gain at each marked position of a knob without a dB scale. */
  knob?: { position: string; gainDb: number }[];
  /** Equivalent input noise with how it was stated. */
  einDbu?: number;
  einWeighting?: (typeof EIN_WEIGHTINGS)[number];
  einBandwidthHz?: number;
  /** 0: shorted input. */
  einSourceOhm?: number;
  /** Noise at the output of a line stage, dBu(A). */
  outputNoiseDbu?: number;
  // Pads and transformers
  attenuationDb?: number;
  /** Turns, secondary to primary: the voltage is multiplied by it. */
  turnsRatio?: number;
  insertionLossDb?: number;
  // Converters
  fullScaleDbu?: number;
  /** A-weighted, below full scale. */
  dynamicRangeDb?: number;
}

export type SpecName = keyof GearSpecs;

interface NumberField {
  form: 'number' | 'numbers';
  least: number;
  most: number;
  /** Written together with the label. */
  unit: string;
}
interface ChoiceField {
  form: 'choice' | 'choices';
  choices: readonly string[];
  unit: '';
}
export type SpecField = {
  name: SpecName;
  label: string;
} & (NumberField | ChoiceField | { form: 'knob' | 'patterns'; unit: '' });

function numeric(
  name: SpecName,
  label: string,
  unit: string,
  least: number,
  most: number,
  form: 'number' | 'numbers' = 'number',
): SpecField {
  return { name, label, unit, form, least, most };
}

/**
 * Every spec, once: what it is called, its unit, and between which values it can be true; which kinds have
 * it stands with the kinds. Forms, tables, files and checks all read this list.
 */
export const SPEC_FIELDS: readonly SpecField[] = [
  { name: 'type', label: 'type', unit: '', form: 'choice', choices: MICROPHONE_TYPES },
  { name: 'powering', label: 'powering', unit: '', form: 'choice', choices: POWERINGS },
  {
    name: 'patterns',
    label: 'patterns',
    unit: '',
    form: 'choices',
    choices: PATTERN_NAMES,
  },
  numeric('sensitivityDb', 'sensitivity', 'dB re 1 V/Pa', -90, 10),
  numeric('selfNoiseDba', 'self-noise', 'dBA', -10, 60),
  numeric('maxSplDb', 'max SPL', 'dB', 80, 180),
  {
    name: 'perPattern',
    label: 'per pattern: sensitivity/self-noise/max SPL',
    unit: '',
    form: 'patterns',
  },
  numeric('maxSplThdPct', 'at distortion', '%', 0.001, 20),
  numeric('resonanceHz', 'coil resonance', 'Hz', 10, 2000),
  numeric('resonanceOhm', 'resonance height', 'Ω', 0.1, 100000),
  numeric('resonanceQ', 'resonance Q', '', 0.1, 20),
  numeric('inductanceMh', 'coil inductance', 'mH', 0, 1000),
  numeric('outputImpedanceOhm', 'output impedance', 'Ω', 0.1, 100000),
  numeric('inputImpedanceOhm', 'input impedance', 'Ω', 10, 100_000_000),
  numeric('padsDb', 'pads', 'dB', 1, 60, 'numbers'),
  numeric('highPassHz', 'high-pass', 'Hz', 10, 1000, 'numbers'),
  numeric('minGainDb', 'least gain', 'dB', -40, 90),
  numeric('maxGainDb', 'most gain', 'dB', -40, 90),
  numeric('gainStepDb', 'gain step', 'dB', 0.1, 20),
  { name: 'knob', label: 'knob positions', unit: '', form: 'knob' },
  numeric('einDbu', 'EIN', 'dBu', -145, -60),
  {
    name: 'einWeighting',
    label: 'EIN weighting',
    unit: '',
    form: 'choice',
    choices: EIN_WEIGHTINGS,
  },
  numeric('einBandwidthHz', 'EIN bandwidth', 'Hz', 1000, 200_000),
  numeric('einSourceOhm', 'EIN source', 'Ω', 0, 10_000),
  numeric('maxInputDbu', 'max input', 'dBu', -60, 60),
  numeric('maxOutputDbu', 'max output', 'dBu', -20, 60),
  numeric('outputNoiseDbu', 'output noise', 'dBu(A)', -130, -20),
  numeric('attenuationDb', 'attenuation', 'dB', 0, 80),
  numeric('turnsRatio', 'turns ratio', 'secondary : primary', 0.02, 50),
  numeric('insertionLossDb', 'insertion loss', 'dB', 0, 20),
  numeric('fullScaleDbu', 'full scale', 'dBu', -10, 40),
  numeric('dynamicRangeDb', 'dynamic range', 'dBA', 40, 150),
];

/**
 * The specs of a microphone as it is set: figures that the pattern has of its own stand in place of those of the whole.
 * @param pattern undefined for the one that is stated first
 */
export function specsAs(specs: GearSpecs, pattern: PatternName | undefined): GearSpecs {
  const inUse = pattern ?? specs.patterns?.[0];
  const own = specs.perPattern?.find((one) => one.pattern === inUse);
  if (!own) return specs;
  const figures = PATTERN_FIGURES.flatMap((name) =>
    own[name] === undefined ? [] : [[name, own[name]] as const],
  );
  return { ...specs, ...Object.fromEntries(figures) };
}

/** What contradicts itself in the specs of one item, as sentences; empty when nothing does. */
export function contradictions(specs: GearSpecs): string[] {
  const found: string[] = [];
  const { selfNoiseDba, maxSplDb, minGainDb, maxGainDb, type, powering } = specs;
  const { patterns = [], perPattern = [] } = specs;
  perPattern.forEach(({ pattern }, i) => {
    if (patterns.length > 0 && !patterns.includes(pattern)) {
      found.push(`Figures are given for ${pattern}, which is not among its patterns.`);
    }
    if (perPattern.findIndex((one) => one.pattern === pattern) < i) {
      found.push(`Figures for ${pattern} stand twice.`);
    }
  });
  if (selfNoiseDba !== undefined && maxSplDb !== undefined && selfNoiseDba >= maxSplDb) {
    found.push(`Self-noise of ${selfNoiseDba} dBA is not below the max SPL of ${maxSplDb} dB.`);
  }
  if (minGainDb !== undefined && maxGainDb !== undefined && minGainDb > maxGainDb) {
    found.push(`The least gain of ${minGainDb} dB is above the most of ${maxGainDb} dB.`);
  }
  if (type === 'moving coil' && powering && powering !== 'passive') {
    found.push('A moving coil needs no powering; set it to passive, or write its booster apart.');
  }
  if (type === 'ribbon' && powering && powering !== 'passive') {
    found.push('A ribbon that is powered is of the type “active ribbon”.');
  }
  return found;
}

/** How an item is set in a chain. */
export interface ItemSettings {
  gainDb?: number;
  knobPosition?: string;
  pattern?: PatternName;
  padDb?: number;
  highPassHz?: number;
  phantom?: boolean;
  /** Voicing or switch positions in words. */
  switches?: string;
}
