import type { Check } from './check';

export const tonePresent: Check = ({ features }) =>
  features && features.toneDbfs !== null
    ? {
        check: 'tone present',
        severity: 'caution',
        text: `Begins with a 1 kHz tone at ${features.toneDbfs.toFixed(1).replace('-', '−')} dBFS; keep it out of the passage. It can be used for matching by tone.`,
      }
    : null;
