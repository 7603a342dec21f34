/**
 * Cells that a spreadsheet would take for a formula (OWASP, CSV injection): they begin with = + - @, a full-width
 * form of these, or a control sign, and are not just a number.
 */
export const FORMULA = /^(?![+-]?\d+(?:[.,]\d+)?$)[=+\-@＝＋－＠\t\r\n]/;

/** Takes the mark off that was put before such a cell on writing. */
export function unmarked(cell: string): string {
  return cell.startsWith("'") && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell;
}
