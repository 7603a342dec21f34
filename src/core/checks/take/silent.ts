import type { Check } from './check';

const SILENT_LUFS = -60;

export const silent: Check = ({ measurement: { integratedLufs, samplePeakDbfs } }) =>
  integratedLufs !== null && integratedLufs > SILENT_LUFS
    ? null
    : {
        check: 'silent',
        severity: 'problem',
        text:
          samplePeakDbfs === null
            ? 'Nothing but digital silence. Check patching and phantom power, then record again.'
            : 'Nearly silent. Check the gain and the channel, then record again.',
      };
