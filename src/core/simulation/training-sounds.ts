/** What a sitting can be practised on: what is nearest to what it asks about. */
export const TRAINING_SOUNDS = ['music', 'speech'] as const;
export type TrainingSound = (typeof TRAINING_SOUNDS)[number];

/** Variants of each. */
const VARIANTS = 2;

/** Number of a stored variant: all of the music, then all of the speech. */
export function trainingVariant(sound: TrainingSound, variant: number): number {
  return VARIANTS * TRAINING_SOUNDS.indexOf(sound) + variant;
}
