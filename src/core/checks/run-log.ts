/** One line of the run sheet as far as it was done. */
export interface LoggedLine {
  chain: string;
  takeNumber: number;
  done: boolean;
  plannedGainDb: number | null;
  gainDb: number | null;
  plannedDistanceM: number | null;
  distanceM: number | null;
}

/** Knobs are read by eye; less is no difference. */
const GAIN_DB = 0.5;
const DISTANCE_SHARE = 0.1;

const { abs } = Math;

function shownDistance(metres: number): string {
  return `${Math.round(100 * metres)} cm`;
}

/** Where what was done differs from what was planned, or two takes of a chain from each other. */
export function logRemarks(lines: readonly LoggedLine[]): string[] {
  const remarks: string[] = [];
  const name = ({ chain, takeNumber }: LoggedLine) =>
    takeNumber > 1 ? `${chain}, take ${takeNumber},` : chain;
  for (const line of lines.filter(({ done }) => done)) {
    const { gainDb, plannedGainDb, distanceM, plannedDistanceM } = line;
    if (gainDb !== null && plannedGainDb !== null && abs(gainDb - plannedGainDb) > GAIN_DB) {
      remarks.push(`${name(line)} was recorded at ${gainDb} dB, planned ${plannedGainDb}.`);
    }
    if (
      distanceM !== null &&
      plannedDistanceM !== null &&
      abs(distanceM - plannedDistanceM) > DISTANCE_SHARE * plannedDistanceM
    ) {
      remarks.push(
        `${name(line)} stood at ${shownDistance(distanceM)}, planned ${shownDistance(plannedDistanceM)}.`,
      );
    }
  }
  for (const chain of new Set(lines.map((line) => line.chain))) {
    const gains = lines.flatMap((line) =>
      line.chain === chain && line.done && line.gainDb !== null ? [line.gainDb] : [],
    );
    if (gains.length > 1 && Math.max(...gains) - Math.min(...gains) > GAIN_DB) {
      remarks.push(
        `The takes of ${chain} were not at one gain (${[...new Set(gains)].join(', ')} dB).`,
      );
    }
  }
  return remarks;
}
