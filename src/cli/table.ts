/** Rows as aligned text: the first column to the left, numbers to the right. */
export function table(rows: readonly (readonly string[])[]): string {
  const widths = (rows[0] ?? []).map((_, c) => Math.max(...rows.map((row) => row[c]!.length)));
  return rows
    .map((row) =>
      row
        .map((cell, c) => (c === 0 ? cell.padEnd(widths[c]!) : cell.padStart(widths[c]!)))
        .join('  ')
        .trimEnd(),
    )
    .map((line) => `${line}\n`)
    .join('');
}

/** A level with its sign and unit; a dash where it is undefined. */
export function signed(value: number | null, unit: string, digits = 2): string {
  if (value === null) return `– ${unit}`;
  return `${value < 0 ? '' : '+'}${value.toFixed(digits)} ${unit}`;
}
