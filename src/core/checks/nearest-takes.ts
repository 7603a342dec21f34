const { abs, hypot, log, max } = Math;

/** A take of a chain that was recorded after others. */
export interface RepeatedTake {
  id: string;
  chain: string;
  /** From the first to the last sound, s; null in silence. */
  activeS: number | null;
  loudnessLufs: number | null;
}

export interface NearestTakes {
  /** One of each chain. */
  takeIds: string[];
  /** Furthest of them from the one that they were chosen around. */
  tempoPercent: number;
  loudnessLu: number;
}

/** What counts as equally far: 2 % of tempo and 1 LU, each about what a listener begins to notice. */
const TEMPO_PERCENT = 2;
const LOUDNESS_LU = 1;
/** Sound under this share of the largest peak (-30 dB) is before or after the playing. */
const QUIET_SHARE = 1 / 32;

/**
 * Length of what was played: from the first to the last peak within 30 dB of the largest, s.
 * @param peaks largest magnitudes, `perS` of them a second, in any unit
 */
export function activeSeconds(peaks: ArrayLike<number>, perS: number): number | null {
  let largest = 0;
  for (let i = 0; i < peaks.length; i++) largest = max(largest, peaks[i]!);
  if (largest === 0) return null;
  let [first, last] = [-1, -1];
  for (let i = 0; i < peaks.length; i++) {
    if (peaks[i]! < largest * QUIET_SHARE) continue;
    if (first < 0) first = i;
    last = i;
  }
  return (last - first + 1) / perS;
}

/**
 * Of chains that were recorded one after another, the takes nearest to each other in tempo (by the length of what was
 * played) and loudness: around each take the nearest of every other chain, and of these sets the tightest.
 * @returns null where no chain has two takes that can be compared, or one has none
 */
export function nearestTakes(takes: readonly RepeatedTake[]): NearestTakes | null {
  const chains = [...new Set(takes.map(({ chain }) => chain))];
  const known = takes.flatMap(({ id, chain, activeS, loudnessLufs }) =>
    activeS === null || activeS <= 0 || loudnessLufs === null
      ? []
      : [{ id, chain, activeS, loudnessLufs }],
  );
  const ofChain = chains.map((name) => known.filter(({ chain }) => chain === name));
  if (chains.length < 2 || ofChain.some(({ length }) => length === 0)) return null;
  if (ofChain.every(({ length }) => length === 1)) return null;
  let best: (NearestTakes & { cost: number }) | null = null;
  for (const middle of known) {
    const apart = (take: (typeof known)[number]) => ({
      id: take.id,
      percent: 100 * abs(log(take.activeS / middle.activeS)),
      lu: abs(take.loudnessLufs - middle.loudnessLufs),
    });
    const far = ({ percent, lu }: ReturnType<typeof apart>) =>
      hypot(percent / TEMPO_PERCENT, lu / LOUDNESS_LU);
    const chosen = ofChain.map((own) => own.map(apart).reduce((a, b) => (far(b) < far(a) ? b : a)));
    const cost = chosen.reduce((sum, one) => sum + far(one), 0);
    if (best !== null && cost >= best.cost) continue;
    best = {
      takeIds: chosen.map(({ id }) => id),
      tempoPercent: max(...chosen.map(({ percent }) => percent)),
      loudnessLu: max(...chosen.map(({ lu }) => lu)),
      cost,
    };
  }
  if (!best) return null;
  const { takeIds, tempoPercent, loudnessLu } = best;
  return { takeIds, tempoPercent, loudnessLu };
}
