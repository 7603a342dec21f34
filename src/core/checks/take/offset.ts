import type { Check } from './check';

const LARGE = 0.002;

export const offset: Check = ({ measurement: { dcOffset } }) => {
  const most = Math.max(0, ...dcOffset.map(Math.abs));
  return most < LARGE
    ? null
    : {
        check: 'offset',
        severity: 'caution',
        text: `Carries a constant offset of ${(100 * most).toFixed(1)} % of full scale; cuts in it will click. Look at the converter, and high-pass it.`,
      };
};
