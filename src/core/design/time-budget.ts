/** Reading the link, consent, level and one practice trial. */
export const SETTLING_S = 150;
/** A pause is offered after this long. */
export const PAUSE_EVERY_S = 15 * 60;
export const PAUSE_S = 60;
/** Reading what the next part asks. */
export const PART_S = 20;

/** Minutes one listener gives to a sitting of parts with these lengths, settling and pauses included. */
export function listenerMinutes(partSeconds: readonly number[]): number {
  const listening = partSeconds.reduce((sum, seconds) => sum + seconds + PART_S, 0);
  const pauses = Math.floor(listening / PAUSE_EVERY_S) * PAUSE_S;
  return (SETTLING_S + listening + pauses) / 60;
}
