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
  for (const trials of seats) {
    let before = '';
    for (const slots of trials) {
      const present = [...new Set(slots)].sort((a, b) => a - b);
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
  };
}
