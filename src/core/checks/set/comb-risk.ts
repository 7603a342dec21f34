import { combNotchesHz } from '@/core/signal/stereo-image';
import { listed, mostOfEach, samePerformance, type SetCheck } from './set-check';

/** A notch in the range that counts, were the two added. */
const LOWEST_HZ = 12_000;

export const combRisk: SetCheck = ({ takes }) => {
  const combing = takes.flatMap(({ chain, sampleRateHz, referenceAlignment }) => {
    if (
      !referenceAlignment ||
      !samePerformance(referenceAlignment) ||
      referenceAlignment.delaySamples === 0
    )
      return [];
    const delayS = Math.abs(referenceAlignment.delaySamples) / sampleRateHz;
    const notch = combNotchesHz(delayS, 1, referenceAlignment.polarityInverted)[0]!;
    return notch < LOWEST_HZ ? [{ chain, notch }] : [];
  });
  const risky = mostOfEach(combing, ({ notch }) => -notch).map(
    ({ chain, notch }) => `${chain} (first notch at ${Math.round(notch)} Hz)`,
  );
  return risky.length === 0
    ? null
    : `Added to the reference as recorded, ${listed(risky)} would comb; a blend aligns them first unless told otherwise.`;
};
