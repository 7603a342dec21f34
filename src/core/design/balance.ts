import { EigenvalueDecomposition, Matrix } from 'ml-matrix';

/** Trials of all seats of one part: chains by index, in the order in which they stand. */
export type PlacedTrials = readonly (readonly (readonly number[])[])[];

/** How evenly orders came out; nothing of which chain is which. */
export interface Balance {
  /** How often a chain stands in a trial: least and most over the chains. */
  shown: [number, number];
  /** How often two chains meet: least and most over the pairs. */
  met: [number, number];
  /** Largest gap between how often a chain stood first and how often last. */
  firstAgainstLast: number;
  /** Trials that ask the very same chains as the one before. */
  sameRunning: number;
  /**
   * What a comparison of two chains is worth, on average, against trials that hold all chains, each as often; 1 where they
   * do (average efficiency factor: John & Williams 1995). Null where chains fall into groups that never meet.
   */
  efficiency: number | null;
}

const NOTHING = 1e-9;

/** The best efficiency that trials of so many of all chains can have: that of balanced incomplete blocks (Yates 1936). */
export const bestEfficiency = (size: number, chains: number): number =>
  size >= chains ? 1 : (chains * (size - 1)) / (size * (chains - 1));

/** Harmonic mean of the information on contrasts, trials as blocks, over that of complete ones. */
function efficiencyOf(blocks: readonly (readonly number[])[], chains: number): number | null {
  if (chains < 2) return null;
  const information = Matrix.zeros(chains, chains);
  let shown = 0;
  for (const block of blocks) {
    shown += block.length;
    for (const i of block) {
      for (const j of block) {
        const share = Number(i === j) - 1 / block.length;
        information.set(i, j, information.get(i, j) + share);
      }
    }
  }
  const values = new EigenvalueDecomposition(information, {
    assumeSymmetric: true,
  }).realEigenvalues.sort((x, y) => x - y);
  // The least belongs to the mean of all, which no block tells anything of.
  const contrasts = values.slice(1);
  if (contrasts.some((value) => value < NOTHING)) return null;
  const harmonic = contrasts.length / contrasts.reduce((sum, value) => sum + 1 / value, 0);
  return harmonic / (shown / chains);
}

const span = (counts: readonly number[]): [number, number] => [
  Math.min(...counts),
  Math.max(...counts),
];

/** Counts what balanced orders promise, on the orders that were really drawn. */
export function balanceOf(seats: PlacedTrials, chains: number): Balance {
  const shown = new Array<number>(chains).fill(0);
  const lead = new Array<number>(chains).fill(0);
  const met = new Map<string, number>();
  for (let a = 0; a < chains; a++) {
    for (let b = a + 1; b < chains; b++) met.set(`${a} ${b}`, 0);
  }
  let sameRunning = 0;
  const blocks: number[][] = [];
  for (const trials of seats) {
    let before = '';
    for (const slots of trials) {
      const present = [...new Set(slots)].sort((a, b) => a - b);
      blocks.push(present);
      for (const chain of present) shown[chain]!++;
      lead[slots[0]!]!++;
      lead[slots[slots.length - 1]!]!--;
      present.forEach((a, i) => {
        for (const b of present.slice(i + 1)) met.set(`${a} ${b}`, (met.get(`${a} ${b}`) ?? 0) + 1);
      });
      const now = present.join(' ');
      if (now === before) sameRunning++;
      before = now;
    }
  }
  return {
    shown: span(shown),
    met: chains > 1 ? span([...met.values()]) : [0, 0],
    firstAgainstLast: Math.max(...lead.map(Math.abs)),
    sameRunning,
    efficiency: efficiencyOf(blocks, chains),
  };
}
