/**
 * What is made equal: programme loudness (default), mean square, or a printed 1 kHz tone; by hand, programme
 * loudness with an offset for each take that the engineer set by ear; the gain that each take was recorded at,
 * so that clips stand to each other as side by side at the desk; or the loudness of a test sound that every chain
 * recorded in a take of its own.
 */
export const MATCH_METHODS = ['loudness', 'rms', 'tone', 'hand', 'gain', 'test'] as const;

export type MatchMethod = (typeof MATCH_METHODS)[number];

/** At one gain a step that is quiet by nature stays quiet: no clip is played louder than this, LUFS. */
export const SAME_GAIN_MOST_LUFS = -20;
