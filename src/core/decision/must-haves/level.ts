import type { MustHaveRule } from './rule';

/** Its gain is enough for this source. */
export const level = {
  id: 'level',
  label: 'reaches level with this source',
  limit: null,
  judge({ shortDb, gainNeededDb, gainMostDb }) {
    if (shortDb === null) return { verdict: 'unknown', ground: 'its gain is not known' };
    if (shortDb > 0) return { verdict: 'fail', ground: `${shortDb.toFixed(0)} dB of gain short` };
    return {
      verdict: 'pass',
      ground:
        gainNeededDb === null || gainMostDb === null
          ? 'by the data sheets'
          : `${gainNeededDb.toFixed(0)} of ${gainMostDb.toFixed(0)} dB of gain`,
    };
  },
} as const satisfies MustHaveRule;
