/** Ranks 1 … k, ties at their middle. */
export function midRanks(values: readonly number[]): number[] {
  const order = values.map((_, i) => i).sort((x, y) => values[x]! - values[y]!);
  const ranks = new Array<number>(values.length).fill(0);
  for (let from = 0; from < order.length;) {
    let to = from;
    while (to + 1 < order.length && values[order[to + 1]!] === values[order[from]!]) to++;
    for (let i = from; i <= to; i++) ranks[order[i]!] = (from + to) / 2 + 1;
    from = to + 1;
  }
  return ranks;
}

/** Pearson's correlation; null for fewer than two, or where one side does not vary. */
export function correlation(x: readonly number[], y: readonly number[]): number | null {
  const n = x.length;
  if (n < 2) return null;
  const [mx, my] = [x, y].map((side) => side.reduce((sum, v) => sum + v, 0) / n) as [
    number,
    number,
  ];
  let [xx, yy, xy] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    xx += (x[i]! - mx) ** 2;
    yy += (y[i]! - my) ** 2;
    xy += (x[i]! - mx) * (y[i]! - my);
  }
  return xx < 1e-18 || yy < 1e-18 ? null : xy / Math.sqrt(xx * yy);
}
