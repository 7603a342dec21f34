import { designBiquad, filterStage } from '@/core/signal/biquad';
import { stageKind } from './stage-kind';

/** "+3 dB", with a true minus. */
export const decibels = (db: number) => `${db < 0 ? '−' : '+'}${Math.abs(db)} dB`;

const SHAPES = { bell: 'bell', lowshelf: 'low shelf', highshelf: 'high shelf' } as const;

export const equaliser = stageKind({
  id: 'equaliser',
  label: 'Equaliser band',
  hint: 'One bell or shelf; add more for more bands.',
  figures: {
    hz: { label: 'at, Hz', least: 20, most: 20_000, start: 3000 },
    db: { label: 'by, dB', least: -24, most: 24, start: 3 },
    q: { label: 'Q', least: 0.1, most: 20, start: 1 },
  },
  choices: { shape: { label: 'shape', words: SHAPES, start: 'bell' } },
  towards: null,
  words: ({ shape, hz, db }) => `${SHAPES[shape]} ${decibels(db)} at ${hz} Hz`,
  make: ({ channels, sampleRateHz }, { shape, hz, q, db }) => [
    filterStage(channels, [designBiquad(shape, hz, sampleRateHz, q, db)]),
  ],
});
