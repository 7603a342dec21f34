import { type Check, usual } from './check';

export const wrongRate: Check = ({ sampleRateHz }, set) => {
  const rate = usual(set.map((other) => other.sampleRateHz));
  return sampleRateHz === rate
    ? null
    : {
        check: 'wrong rate',
        severity: 'caution',
        text: `Recorded at ${sampleRateHz / 1000} kHz, the others at ${rate / 1000} kHz. Matching resamples it; a take recorded alike is better.`,
      };
};
