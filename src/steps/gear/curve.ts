import Papa from 'papaparse';
import type { CurvePoint } from '@/core/chain/specs';
import { UserError } from '@/platform/errors';
import { decimalSignOf, numberFault, readNumber } from '@/core/text/numbers';

const MOST_POINTS = 20_000;

/**
 * Reads a curve from plain text: two or three columns (frequency in Hz; ohm or dB; phase in degrees),
 * parted by blanks, tabs, commas or semicolons. Lines that begin with a letter or a sign of comment are
 * passed over. Frequencies have to rise.
 * @throws UserError naming the line
 */
export function readCurve(text: string, which: 'impedance' | 'response'): CurvePoint[] {
  const points: CurvePoint[] = [];
  const lines = text.split(/\r\n|\r|\n/);
  const fault = (line: number, what: string) =>
    new UserError(422, `Line ${line + 1} of the curve ${what}; nothing was changed.`);
  const told = lines
    .filter((line) => /^\s*[\d.+-]/.test(line))
    .flatMap((line) => cellsOf(line.trim()));
  // In lines of bare numbers nothing parts thousands, so a point stands before decimals unless commas do.
  const decimal = decimalSignOf(told) ?? (told.some((cell) => cell.includes(',')) ? null : '.');
  lines.forEach((raw, i) => {
    const line = raw.trim();
    if (line === '' || /^[^\d.+-]/.test(line)) return;
    const cells = cellsOf(line);
    if (cells.length < 2 || cells.length > 3) {
      throw fault(i, `has ${cells.length} columns; two or three are needed (Hz, value, phase)`);
    }
    const values = cells.map((cell) => readNumber(cell, decimal));
    const unread = values.findIndex((value) => value === null);
    if (unread >= 0) {
      const said = numberFault(cells[unread]!, decimal) ?? '';
      throw fault(i, `cannot be read: ${said.replace(/\.$/, '')}`);
    }
    const [hz, value, phase] = values as number[] as [number, number, number];
    if (hz <= 0 || hz > 200_000) throw fault(i, `has a frequency of ${hz} Hz`);
    if (which === 'impedance' && value <= 0) throw fault(i, `has an impedance of ${value} Ω`);
    if (which === 'response' && Math.abs(value) > 120) throw fault(i, `has a level of ${value} dB`);
    const before = points.at(-1);
    if (before && hz <= before[0]) throw fault(i, 'does not rise in frequency');
    points.push(phase === undefined ? [hz, value] : [hz, value, phase]);
    if (points.length > MOST_POINTS)
      throw fault(i, `is one too many; ${MOST_POINTS} points are the most`);
  });
  if (points.length < 2)
    throw new UserError(422, 'A curve needs two points at least; nothing was changed.');
  return points;
}

function cellsOf(line: string): string[] {
  if (/[;\t]/.test(line)) {
    return Papa.parse<string[]>(line, { delimiter: line.includes(';') ? ';' : '\t' })
      .data[0]!.map((cell) => cell.trim())
      .filter(Boolean);
  }
  const blanks = line.split(/\s+/).map((cell) => cell.replace(/,$/, ''));
  return blanks.length > 1 ? blanks : line.split(',').map((cell) => cell.trim());
}
