import type { Check } from './check';

/** Share of samples within 0.3 dB of the highest, from which on peaks look cut. */
const MUCH = 0.002;

export const limited: Check = ({ features, measurement: { clippedSamples } }) =>
  !features || features.nearPeakShare < MUCH || features.toneDbfs !== null || clippedSamples > 0
    ? null
    : {
        check: 'limited',
        severity: 'caution',
        text: 'Many peaks stop at one height: a limiter or an overloaded stage was probably in the way. Bypass it for all chains alike.',
      };
