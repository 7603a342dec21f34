/** Reading the link, consent, level and one practice trial. */
export const SETTLING_S = 150;
/** A pause is offered after this long. */
const PAUSE_EVERY_S = 15 * 60;
const PAUSE_S = 60;
/** Each clip is heard about this often before an answer. */
const HEARINGS = 1.6;
const DECIDING_S = 6;

/** Honest length of one pair trial with clips of a length, in seconds. */
export function pairTrialSeconds(clipSeconds: number): number {
  return 2 * HEARINGS * clipSeconds + DECIDING_S;
}

/** Minutes one listener gives to a pair sitting, settling and pauses included. */
export function listenerMinutes(trials: number, clipSeconds: number): number {
  const listening = trials * pairTrialSeconds(clipSeconds);
  const pauses = Math.floor(listening / PAUSE_EVERY_S) * PAUSE_S;
  return (SETTLING_S + listening + pauses) / 60;
}
