import type { Check } from './check';

export const clipped: Check = ({ measurement: { clippedSamples } }) =>
  clippedSamples > 0
    ? {
        check: 'clipped',
        severity: 'problem',
        text:
          `${clippedSamples} sample${clippedSamples === 1 ? ' is' : 's are'} ` +
          'at full scale: the take is clipped. Record it again with less gain.',
      }
    : null;
