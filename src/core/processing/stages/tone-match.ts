import { spectraOfClips } from '@/core/spectrum/spectra';
import { toneMatch as toneMatchOf, toneMatchStage } from '@/core/spectrum/tone-match';
import { stageKind } from './stage-kind';

export const toneMatch = stageKind({
  id: 'tone-match',
  label: 'Tone match',
  hint: 'Gives the clip the average spectrum of another chain’s: what is left of the difference is not only EQ.',
  figures: { limitDb: { label: 'at most, dB', least: 1, most: 24, start: 9 } },
  choices: {
    phase: {
      label: 'phase',
      words: { minimum: 'minimum', linear: 'linear' },
      start: 'minimum',
    },
    smoothing: {
      label: 'smoothed over',
      words: { third: '1/3 octave', sixth: '1/6 octave' },
      start: 'third',
    },
  },
  towards: 'tone of',
  listens: true,
  words: ({ chainId }, nameOf) => `tone of ${nameOf(chainId)}`,
  make: ({ channels, sampleRateHz, sound, clipOf, onToning }, { chainId, ...settings }) => {
    const [spectra] = spectraOfClips(clipOf(chainId), [sound()], sampleRateHz);
    const made = toneMatchOf(spectra!, settings);
    onToning(made.bands);
    return [toneMatchStage(channels, made)];
  },
});
