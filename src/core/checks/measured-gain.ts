import { TARGET_DBFS } from '@/core/chain/target';

/** One chain that heard the common sound, with its gain and what its data sheets say. */
export interface GainTake {
  chain: string;
  /** Gain that it was recorded at, dB. */
  recordedGainDb: number;
  /** Root mean square of the take, dBFS; a full-scale sine reads -3.01. */
  rmsDbfs: number;
  truePeakDbtp: number;
  /** Gain that its data sheets ask for, and the most its preamp has, dB; null where they say nothing. */
  predictedDb: number | null;
  mostDb: number | null;
}

export interface MeasuredGain {
  chain: string;
  recordedGainDb: number;
  /** How much louder than the reference it comes at the same gain, dB. */
  sensitivityDb: number;
  /** Gain that brings the average to its target, dB. */
  neededDb: number;
  /** From the peak to full scale at that gain, dB; below 0 it would clip. */
  headroomDb: number;
  /** Gain that is left beyond what is needed, dB; below 0 it is short. */
  leftDb: number | null;
  predictedDb: number | null;
  /** Needed more than predicted, both against the reference, dB. */
  offDb: number | null;
}

/** From the mean square of a sine to the sine's peak. */
const SINE_CREST_DB = 10 * Math.log10(2);
/** Differences from a data sheet that are pointed at, dB. */
export const WORTH_CHECKING_DB = 3;

/**
 * Gain as it was measured, from one sound that every chain heard at once and the gains that were written down, beside
 * what data sheets predict. How loud the source really was is not known, so measured and predicted gains are compared
 * by how they differ from the reference's: a wrong guess of the source shifts all alike.
 * @param takes of one sound, recorded at once
 * @param reference the chain that others are set against; the first when it is not among them
 * @returns in the order of the takes; none for fewer than two
 */
export function measuredGains(
  takes: readonly GainTake[],
  reference: string | null,
): MeasuredGain[] {
  const first = takes.find(({ chain }) => chain === reference) ?? takes[0];
  if (!first || takes.length < 2) return [];
  const needed = ({ recordedGainDb, rmsDbfs }: GainTake) =>
    recordedGainDb + TARGET_DBFS - (rmsDbfs + SINE_CREST_DB);
  return takes.map((take) => {
    const { chain, recordedGainDb, truePeakDbtp, predictedDb, mostDb } = take;
    const neededDb = needed(take);
    const against = neededDb - needed(first);
    const predictedAgainst =
      predictedDb === null || first.predictedDb === null || take === first
        ? null
        : predictedDb - first.predictedDb;
    return {
      chain,
      recordedGainDb,
      sensitivityDb: 0 - against,
      neededDb,
      headroomDb: 0 - (truePeakDbtp + neededDb - recordedGainDb),
      leftDb: mostDb === null ? null : mostDb - neededDb,
      predictedDb,
      offDb: predictedAgainst === null ? null : against - predictedAgainst,
    };
  });
}

/** What is to be said of a chain's gain, as sentences; none where all is as it should be. */
export function gainRemarks({ leftDb, headroomDb, offDb }: MeasuredGain): string[] {
  const remarks: string[] = [];
  if (leftDb !== null && leftDb < 0) remarks.push(`${(0 - leftDb).toFixed(0)} dB short of level.`);
  if (headroomDb < 0)
    remarks.push(`At level its peaks would clip by ${(0 - headroomDb).toFixed(1)} dB.`);
  if (offDb !== null && Math.abs(offDb) > WORTH_CHECKING_DB) {
    const more = Math.abs(offDb).toFixed(0);
    remarks.push(
      offDb > 0
        ? `It needs ${more} dB more than its data sheets say: check pad, pattern, cable and the gain that was written.`
        : `It needs ${more} dB less than its data sheets say: check pad, booster, distance and the gain that was written.`,
    );
  }
  return remarks;
}
