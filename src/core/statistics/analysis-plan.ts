/**
 * What is done with the answers, fixed and sealed before the first of them. Whoever changes what a headline rests on
 * counts the version up.
 */
export const ANALYSIS_PLAN = {
  version: 3,
  text:
    'Each part is read alone. Pairs: one Davidson model with ties and order effect; headline test net wins ' +
    'per listener, corrected for a common liking for the first, block test, 5 %, no headline without it; single pairs by exact sign test over listeners, Holm. Lines and ' +
    'judgements against the reference: means of each listener, Friedman in its F form. Right answers: exact ' +
    'binomial test against guessing, Holm over the pairs. Words: Cochran, Holm over the words. Controls ' +
    'are reported apart. No look before closing; listeners are left out only if they never answered.',
} as const;
