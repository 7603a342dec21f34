/** One band of the equaliser; a gain of 0 dB leaves it out. */
export interface EqBand {
  shape: 'bell' | 'lowshelf' | 'highshelf';
  hz: number;
  q: number;
  db: number;
}

export interface CompressorSettings {
  /** Where it begins, dB above the programme loudness of the clip (which stands at -23 LUFS then). */
  thresholdDb: number;
  ratio: number;
  kneeDb: number;
  attackMs: number;
  releaseMs: number;
}

export interface DeEsserSettings {
  /** Everything above is judged and turned down. */
  fromHz: number;
  /** Level of that band, dB against the whole clip's loudness, over which it is turned down. */
  thresholdDb: number;
  mostDb: number;
}

/** What a clip goes through in a processed context, in this order; null leaves a part out. */
export interface ProcessSettings {
  highPassHz: number | null;
  eq: readonly EqBand[];
  compressor: CompressorSettings | null;
  deEsser: DeEsserSettings | null;
}

/** A mild start: what engineers put on a voice before they think about it. */
export const MILD_PROCESSING: ProcessSettings = {
  highPassHz: 80,
  eq: [
    { shape: 'lowshelf', hz: 150, q: 0.7, db: 0 },
    { shape: 'bell', hz: 350, q: 1, db: -1.5 },
    { shape: 'bell', hz: 3000, q: 0.9, db: 1 },
    { shape: 'highshelf', hz: 9000, q: 0.7, db: 1.5 },
  ],
  compressor: { thresholdDb: 3, ratio: 2.5, kneeDb: 6, attackMs: 12, releaseMs: 140 },
  deEsser: { fromHz: 5500, thresholdDb: -8, mostDb: 6 },
};

export const NO_PROCESSING: ProcessSettings = {
  highPassHz: null,
  eq: [],
  compressor: null,
  deEsser: null,
};
