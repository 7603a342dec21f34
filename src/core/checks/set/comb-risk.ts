import { combNotchesHz } from '@/core/signal/stereo-image';
import { listed, samePerformance, type SetCheck } from './set-check';

/** A notch in the range that counts, were the two added. */
const LOWEST_HZ = 12_000;

export const combRisk: SetCheck = ({ takes }) => {
  const risky = takes.flatMap(({ chain, sampleRateHz, referenceAlignment }) => {
    if (
      !referenceAlignment ||
      !samePerformance(referenceAlignment) ||
      referenceAlignment.delaySamples === 0
    )
      return [];
    const delayS = Math.abs(referenceAlignment.delaySamples) / sampleRateHz;
    const notch = combNotchesHz(delayS, 1, referenceAlignment.polarityInverted)[0]!;
    return notch < LOWEST_HZ ? [`${chain} (first notch at ${Math.round(notch)} Hz)`] : [];
  });
  return risky.length === 0
    ? null
    : `Added to the reference as recorded, ${listed(risky)} would comb; a blend aligns them first unless told otherwise.`;
};
