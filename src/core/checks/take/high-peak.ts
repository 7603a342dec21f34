import type { Check } from './check';

const HIGH_DBTP = -1;

export const highPeak: Check = ({ measurement: { truePeakDbtp, clippedSamples } }) =>
  truePeakDbtp === null || truePeakDbtp <= HIGH_DBTP || clippedSamples > 0
    ? null
    : {
        check: 'high peak',
        severity: 'caution',
        text: `Its true peak is ${truePeakDbtp.toFixed(1).replace('-', '−')} dBTP, close to the edge. Leave 6 dB more room next time.`,
      };
