import type { MustHaveRule } from './rule';

/** Nothing in it needs phantom power. */
export const phantom = {
  id: 'phantom',
  label: 'runs without phantom power',
  limit: null,
  judge({ onPhantom }) {
    if (onPhantom === null) return { verdict: 'unknown', ground: 'no gear is named' };
    return onPhantom.length === 0
      ? { verdict: 'pass', ground: 'nothing in it needs phantom power' }
      : { verdict: 'fail', ground: `${onPhantom.join(', ')} needs phantom power` };
  },
} as const satisfies MustHaveRule;
