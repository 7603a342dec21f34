import { saturation as saturationStage } from '@/core/processing/saturation';
import { decibels } from './equaliser';
import { stageKind } from './stage-kind';

export const saturation = stageKind({
  id: 'saturation',
  label: 'Saturation',
  hint: 'Bends the wave softly; drive counts from the clip’s own loudness to the bend.',
  figures: { driveDb: { label: 'drive, dB', least: -30, most: 24, start: -12 } },
  choices: {
    curve: {
      label: 'curve',
      words: { symmetric: 'symmetric (odd harmonics)', asymmetric: 'asymmetric (even ones too)' },
      start: 'symmetric',
    },
  },
  towards: null,
  words: ({ curve, driveDb }) => `${curve} saturation, drive ${decibels(driveDb)}`,
  make: ({ channels, sampleRateHz }, settings) => [
    saturationStage(channels, sampleRateHz, settings),
  ],
});
