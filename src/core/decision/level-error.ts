/** The louder of two that were the same but for 1 dB: how often it was chosen, the softer, and neither. */
export interface LevelCatch {
  one: number;
  other: number;
  neither: number;
  /** How much louder, dB. */
  byDb: number;
}

const logit = (share: number) => Math.log(share / (1 - share));

/**
 * By how much the match would have to favour a chain to explain its lead, when loudness alone moves choices as much as
 * the control shows: the lead in log odds over log odds per dB (Bradley & Terry's scale taken as straight in level).
 * A tie counts half for each; half an answer is added to either side, so that a control that went one way has a size.
 * @param lead log odds by which the winner leads, at least 0
 * @returns dB; null where the control shows no liking for the louder one
 */
export function explainingErrorDb(
  lead: number,
  { one, other, neither, byDb }: LevelCatch,
): number | null {
  const n = one + other + neither;
  if (n === 0) return null;
  const share = (one + neither / 2 + 0.5) / (n + 1);
  const slope = logit(share) / byDb;
  return slope <= 0 ? null : lead / slope;
}
