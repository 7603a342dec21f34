import type { Check } from './check';

export const lossy: Check = ({ features }) =>
  features && features.cutoffHz !== null
    ? {
        check: 'lossy',
        severity: 'caution',
        text: `Everything above ${(features.cutoffHz / 1000).toFixed(1)} kHz is missing at once: it was probably coded with loss, or resampled. Use the original file.`,
      }
    : null;
