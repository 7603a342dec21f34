import { TARGET_DBFS } from '@/core/chain/target';
import type { Check } from './check';

/** Further from the usual average than this is worth a word, dB. */
const TOLERANCE_DB = 12;
const SINE_DB = 3.01;
const SILENT_DBFS = -60;

export const offLevel: Check = ({ measurement: { rmsDbfs } }) => {
  if (rmsDbfs === null || rmsDbfs < SILENT_DBFS) return null;
  const off = rmsDbfs + SINE_DB - TARGET_DBFS;
  return Math.abs(off) <= TOLERANCE_DB
    ? null
    : {
        check: 'off level',
        severity: 'caution',
        text: `Its average lies ${Math.abs(off).toFixed(0)} dB ${off < 0 ? 'under' : 'over'} the −18 dBFS that gain is set for. ${
          off < 0 ? 'Make-up gain will lift its noise as much.' : 'There is little room for peaks.'
        }`,
      };
};
