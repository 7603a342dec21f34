/**
 * Reads a number as spreadsheets of several countries write it: point or comma before the decimals,
 * points, commas, blanks or apostrophes between thousands where the other sign follows, a true minus.
 * @returns null when it is none
 */
export function readNumber(text: string): number | null {
  let plain = text
    .trim()
    .replace(/^−/, '-')
    .replace(/[\s'’\u00a0\u202f]/g, '');
  const [comma, point] = [plain.lastIndexOf(','), plain.lastIndexOf('.')];
  if (comma >= 0 && point >= 0) {
    plain = comma > point ? plain.replaceAll('.', '').replace(',', '.') : plain.replaceAll(',', '');
  } else plain = plain.replace(',', '.');
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain)) return null;
  const value = Number(plain);
  return Number.isFinite(value) ? value : null;
}
