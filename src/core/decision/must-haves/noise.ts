import type { MustHaveRule } from './rule';

/** Noise with all chains brought to one loudness, from data sheets. */
export const noise = {
  id: 'noise',
  label: 'noise at one loudness is at most',
  limit: { unit: 'dBA', least: -20, most: 80 },
  judge({ noiseDba }, limit) {
    if (noiseDba === null) return { verdict: 'unknown', ground: 'its noise is not known' };
    return {
      verdict: noiseDba <= limit ? 'pass' : 'fail',
      ground: `${noiseDba.toFixed(1)} dBA by the data sheets`,
    };
  },
} as const satisfies MustHaveRule;
