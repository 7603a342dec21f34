/** Rows of many, by whose they are, each group in the order of the rows. */
export function grouped<R extends { of: string }>(
  rows: readonly R[],
): Map<string, Omit<R, 'of'>[]> {
  const groups = new Map<string, Omit<R, 'of'>[]>();
  for (const { of, ...row } of rows) {
    const group = groups.get(of);
    if (group) group.push(row);
    else groups.set(of, [row]);
  }
  return groups;
}
