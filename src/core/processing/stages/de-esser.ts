import { deEsser as deEsserStage } from '@/core/processing/dynamics';
import { stageKind } from './stage-kind';

export const deEsser = stageKind({
  id: 'de-esser',
  label: 'De-esser',
  hint: 'Turns sibilants down; what lies below stays.',
  figures: {
    fromHz: { label: 'from, Hz', least: 1000, most: 16_000, start: 5500 },
    thresholdDb: { label: 'over mean, dB', least: -60, most: 20, start: -8 },
    mostDb: { label: 'at most, dB', least: 0, most: 24, start: 6 },
  },
  choices: {},
  towards: null,
  words: ({ fromHz, mostDb }) => `de-esser from ${fromHz} Hz, at most ${mostDb} dB`,
  make: ({ channels, sampleRateHz }, settings) => [deEsserStage(channels, sampleRateHz, settings)],
});
