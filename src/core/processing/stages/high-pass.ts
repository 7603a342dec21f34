import { highPassSections } from '@/core/processing/process';
import { filterStage } from '@/core/signal/biquad';
import { stageKind } from './stage-kind';

export const highPass = stageKind({
  id: 'high-pass',
  label: 'High-pass',
  hint: 'Takes rumble and proximity out, 24 dB an octave below its corner.',
  figures: { hz: { label: 'corner, Hz', least: 10, most: 2000, start: 80 } },
  choices: {},
  towards: null,
  words: ({ hz }) => `high-pass ${hz} Hz`,
  make: ({ channels, sampleRateHz }, { hz }) => [
    filterStage(channels, highPassSections(hz, sampleRateHz)),
  ],
});
