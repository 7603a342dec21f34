import { speedOfSoundMps } from '@/core/signal/units';
import { samePerformance, type SetCheck } from './set-check';

/** Further apart than this, angle and proximity differ audibly as well. */
const FAR_CM = 10;

/** How many centimetres further from the source a take's microphone stood. */
export function arrivalCm(delaySamples: number, sampleRateHz: number, temperatureC: number) {
  return (100 * speedOfSoundMps(temperatureC) * delaySamples) / sampleRateHz;
}

export const arrival: SetCheck = ({ takes, temperatureC }) => {
  const away = takes.flatMap(({ chain, sampleRateHz, relation }) => {
    if (!relation || !samePerformance(relation)) return [];
    const cm = arrivalCm(relation.delaySamples, sampleRateHz, temperatureC);
    return Math.abs(cm) > FAR_CM ? [{ chain, cm }] : [];
  });
  if (away.length === 0) return null;
  const said = away.map(
    ({ chain, cm }) => `${chain} ${Math.abs(cm).toFixed(0)} cm ${cm > 0 ? 'further' : 'closer'}`,
  );
  return `Microphones did not stand at one spot (at ${temperatureC} °C: ${said.join(', ')}); level and delay are corrected, angle and proximity are not.`;
};
