/**
 * What is done with the answers, fixed and sealed before the first of them. Whoever changes what a headline rests on
 * counts the version up.
 */
export const ANALYSIS_PLAN = {
  version: 6,
  text:
    'The primary part is judged at 5 %. The headlines of the other parts are corrected together (Holm) and claimed ' +
    'only where the primary one holds or has no test that can speak; single pairs, words and candidates only where ' +
    'their part’s headline holds. Only what was judged enters a test; controls and what was asked again are reported ' +
    'apart. Pairs: one Davidson model with ties and order effect; headline test net wins per listener, corrected ' +
    'for a common liking for the first, block test, 5 %, no headline without it; single pairs by exact sign test ' +
    'over listeners, Holm. Lines: means of each listener, Friedman in its F form, or the mixed model where fewer ' +
    'than half rated every chain; pairs by the mixed model, Holm, only below a headline under 5 %. The best: ' +
    'multiple comparisons with the best, 95 %, from six listeners. Against the reference: each candidate less the ' +
    'listener’s own place for the hidden reference (50 without one), t over listeners from six on, Holm. Right ' +
    'answers: exact binomial test against guessing, Holm over the pairs. Words: Cochran, Holm over the words. ' +
    'In a room no verdict where right answers, or chains on a line, stood in its places unequally often. ' +
    'Beside the headlines, never in place of one, and nothing of it where the primary part showed nothing: whether ' +
    'strengths move between places (block test on complete listeners, Holm), whether tastes differ along one axis ' +
    '(parametric bootstrap), what microphone and preamp carry, who is best over all places. Level, and how many hear a difference at most, are ' +
    'judged by the smallest share that the question names. No look before closing; listeners are left out only if they never answered.',
} as const;
