import { TARGET_DBFS } from '@/core/chain/target';

/** One chain that heard the common sound, with its gain and what its data sheets say. */
export interface GainTake {
  chain: string;
  /** Gain that it was recorded at, dB; null where only the position of its knob is known. */
  recordedGainDb: number | null;
  /** That position; empty where the gain is known. */
  knob: string;
  /** Root mean square of the take, dBFS; a full-scale sine reads -3.01. */
  rmsDbfs: number;
  truePeakDbtp: number;
  /** Gain that its data sheets ask for, and the most its preamp has, dB; null where they say nothing. */
  predictedDb: number | null;
  mostDb: number | null;
}

export interface MeasuredGain {
  chain: string;
  recordedGainDb: number | null;
  knob: string;
  /** By how much the gain that it was recorded at has to be turned up, dB. */
  turnUpDb: number;
  /** How much louder than the reference it comes at the same gain, dB; null where a gain is not known. */
  sensitivityDb: number | null;
  /** Gain that brings the average to its target, dB; null as above. */
  neededDb: number | null;
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
 * Of a knob without a scale only how far it has to be turned is known.
 * @param takes of one sound, recorded at once
 * @param reference the chain that others are set against; the first of known gain when it is not among them
 * @returns in the order of the takes; none for fewer than two
 */
export function measuredGains(
  takes: readonly GainTake[],
  reference: string | null,
): MeasuredGain[] {
  const first =
    takes.find(({ chain }) => chain === reference) ??
    takes.find(({ recordedGainDb }) => recordedGainDb !== null) ??
    takes[0];
  if (!first || takes.length < 2) return [];
  const turnUp = ({ rmsDbfs }: GainTake) => TARGET_DBFS - (rmsDbfs + SINE_CREST_DB);
  const needed = (take: GainTake) =>
    take.recordedGainDb === null ? null : take.recordedGainDb + turnUp(take);
  const firstDb = needed(first);
  return takes.map((take) => {
    const { chain, recordedGainDb, knob, truePeakDbtp, predictedDb, mostDb } = take;
    const neededDb = needed(take);
    const against = neededDb === null || firstDb === null ? null : neededDb - firstDb;
    const predictedAgainst =
      predictedDb === null || first.predictedDb === null || take === first
        ? null
        : predictedDb - first.predictedDb;
    return {
      chain,
      recordedGainDb,
      knob,
      turnUpDb: turnUp(take),
      sensitivityDb: against === null ? null : 0 - against,
      neededDb,
      headroomDb: 0 - (truePeakDbtp + turnUp(take)),
      leftDb: mostDb === null || neededDb === null ? null : mostDb - neededDb,
      predictedDb,
      offDb: predictedAgainst === null || against === null ? null : against - predictedAgainst,
    };
  });
}

/** What is to be said of a chain's gain, as sentences; none where all is as it should be. */
export function gainRemarks(measured: MeasuredGain): string[] {
  const { recordedGainDb, knob, turnUpDb, leftDb, headroomDb, offDb } = measured;
  const remarks: string[] = [];
  if (recordedGainDb === null) {
    const turn = `${Math.abs(turnUpDb).toFixed(0)} dB ${turnUpDb < 0 ? 'down' : 'up'}`;
    remarks.push(`Relative only: ${turn} from knob at ${knob}; no data sheet says its gain there.`);
  }
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
