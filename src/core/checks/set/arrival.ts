import { speedOfSoundMps } from '@/core/signal/units';
import { listed, mostOfEach, samePerformance, type SetCheck } from './set-check';

/** Further apart than this, angle and proximity differ audibly as well. */
const FAR_CM = 10;

/** Nobody records from farther away: a delay beyond it is a file that was cut at its beginning. */
export const FARTHEST_S = 0.06;

/** How many centimetres further from the source a take's microphone stood. */
export function arrivalCm(delaySamples: number, sampleRateHz: number, temperatureC: number) {
  return (100 * speedOfSoundMps(temperatureC) * delaySamples) / sampleRateHz;
}

export const arrival: SetCheck = ({ takes, temperatureC }) => {
  const known = takes.flatMap(({ chain, sampleRateHz, referenceAlignment }) =>
    referenceAlignment && samePerformance(referenceAlignment)
      ? [
          {
            chain,
            sampleRateHz,
            delayS: referenceAlignment.delaySamples / sampleRateHz,
            referenceAlignment,
          },
        ]
      : [],
  );
  const cut = mostOfEach(
    known.filter(({ delayS }) => Math.abs(delayS) > FARTHEST_S),
    ({ delayS }) => Math.abs(delayS),
  );
  const moved = known.flatMap(({ chain, sampleRateHz, delayS, referenceAlignment }) => {
    if (Math.abs(delayS) > FARTHEST_S) return [];
    const cm = arrivalCm(referenceAlignment.delaySamples, sampleRateHz, temperatureC);
    return Math.abs(cm) > FAR_CM ? [{ chain, cm }] : [];
  });
  const away = mostOfEach(moved, ({ cm }) => Math.abs(cm));
  const trimmed =
    cut.length === 0
      ? null
      : `${listed(cut.map(({ chain, delayS }) => `${chain} by ${Math.abs(1000 * delayS).toFixed(0)} ms`))} against the reference: too much for a distance, so the beginning of a file was cut; the delay is corrected.`;
  if (away.length === 0) return trimmed && `Shifted are ${trimmed}`;
  const said = away.map(
    ({ chain, cm }) => `${chain} ${Math.abs(cm).toFixed(0)} cm ${cm > 0 ? 'further' : 'closer'}`,
  );
  const apart = `Microphones did not stand at one spot (at ${temperatureC} °C: ${said.join(', ')}); level and delay are corrected, angle and proximity are not.`;
  return trimmed ? `${apart} Shifted are ${trimmed}` : apart;
};
