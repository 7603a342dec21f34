import { compressor as compressorStage } from '@/core/processing/dynamics';
import { stageKind } from './stage-kind';

export const compressor = stageKind({
  id: 'compressor',
  label: 'Compressor',
  hint: 'Turns loud places down; the threshold counts from the clip’s own loudness.',
  figures: {
    thresholdDb: { label: 'over mean, dB', least: -40, most: 40, start: 3 },
    ratio: { label: 'ratio, : 1', least: 1, most: 50, start: 2.5 },
    kneeDb: { label: 'knee, dB', least: 0, most: 40, start: 6 },
    attackMs: { label: 'attack, ms', least: 0.1, most: 500, start: 12 },
    releaseMs: { label: 'release, ms', least: 1, most: 5000, start: 140 },
  },
  choices: {},
  towards: null,
  words: ({ ratio, thresholdDb }) =>
    `compressor ${ratio} : 1 from ${thresholdDb} dB over its loudness`,
  make: ({ sampleRateHz }, settings) => [compressorStage(sampleRateHz, settings)],
});
