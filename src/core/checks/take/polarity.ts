import { samePerformance } from '../set/set-check';
import type { Check } from './check';

export const polarity: Check = ({ referenceAlignment }) =>
  referenceAlignment?.polarityInverted && samePerformance(referenceAlignment)
    ? {
        check: 'polarity',
        severity: 'caution',
        text: 'Polarity is the other way round than in the reference take. Matching corrects it; look for the cable or the switch.',
      }
    : null;
