import type { GearKind } from '@/core/chain/kinds';

/** Something that is judged with open eyes, and of what it is asked. */
export interface UsualCriterion {
  name: string;
  /** Kinds of gear that it belongs to; null for all. */
  kinds: readonly GearKind[] | null;
}

const KNOBBED: readonly GearKind[] = ['preamp', 'strip', 'converter'];

/** What engineers usually weigh beside the sound; a question may name others. */
export const USUAL_CRITERIA: readonly UsualCriterion[] = [
  { name: 'build', kinds: null },
  { name: 'mount', kinds: ['microphone', 'accessory'] },
  { name: 'switches', kinds: ['microphone', ...KNOBBED] },
  { name: 'features', kinds: null },
  { name: 'noise', kinds: null },
  { name: 'gain need', kinds: ['microphone', 'booster'] },
  { name: 'power', kinds: null },
  { name: 'portability', kinds: null },
  { name: 'service', kinds: null },
  { name: 'reliability', kinds: null },
  { name: 'looks', kinds: null },
];

/** Whether a criterion is asked of a kind of gear; those that a question names by itself are asked of all. */
export function belongsTo(criterion: string, kind: string): boolean {
  const usual = USUAL_CRITERIA.find(({ name }) => name === criterion.trim().toLowerCase());
  return !usual?.kinds || usual.kinds.some((one) => one === kind);
}
