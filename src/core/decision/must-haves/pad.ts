import type { MustHaveRule } from './rule';

/** Something in it can be padded. */
export const pad = {
  id: 'pad',
  label: 'has a pad',
  limit: null,
  judge({ hasPad }) {
    if (hasPad === null) return { verdict: 'unknown', ground: 'no gear is named' };
    // A data sheet that names none may have left it out.
    return hasPad
      ? { verdict: 'pass', ground: 'by the gear list' }
      : { verdict: 'unknown', ground: 'the gear list names none' };
  },
} as const satisfies MustHaveRule;
