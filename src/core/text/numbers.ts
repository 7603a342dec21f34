/** The sign before decimals. */
export type DecimalSign = '.' | ',';

/** A number that was read, or why it was not, in a sentence. */
export type NumberReading = { value: number } | { fault: string };

const SPACES = /[\s'’\u00a0\u2009\u202f]/g;
const PLAIN = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i;

/** Whether all groups after the first are three digits, as between thousands. */
const grouped = (whole: string, mark: string): boolean => {
  const [first = '', ...rest] = whole.replace(/^[+-]/, '').split(mark);
  return /^\d{1,3}$/.test(first) && rest.length > 0 && rest.every((part) => /^\d{3}$/.test(part));
};

/**
 * Reads a number as people of several countries write it: point or comma before the decimals; the other sign,
 * blanks or apostrophes between thousands; a true minus. One point or comma with three digits behind it can mean
 * either ("2.500"), and is refused unless it is told which sign stands before decimals.
 * @param decimal the sign before decimals, where others of the same list show it
 */
export function readingOf(text: string, decimal: DecimalSign | null = null): NumberReading {
  const trimmed = text.trim().replace(/^−/, '-');
  const none = { fault: `“${text.trim()}” is not a number.` };
  if (/\d[\s'’\u00a0\u2009\u202f]/.test(trimmed)) {
    // Blanks and apostrophes part thousands, nothing else.
    const whole = /^[+-]?[\d\s'’\u00a0\u2009\u202f]+/.exec(trimmed)?.[0] ?? '';
    if (!grouped(whole.trim().replace(SPACES, ' '), ' ')) return none;
  }
  const bare = trimmed.replace(SPACES, '');
  const [commas, points] = [',', '.'].map((sign) => bare.split(sign).length - 1) as [
    number,
    number,
  ];
  if (commas > 0 && points > 0) {
    const sign = bare.lastIndexOf(',') > bare.lastIndexOf('.') ? ',' : '.';
    const other = sign === ',' ? '.' : ',';
    const [whole, fraction] = [
      bare.slice(0, bare.lastIndexOf(sign)),
      bare.slice(bare.lastIndexOf(sign) + 1),
    ];
    if (!grouped(whole, other) || whole.includes(sign)) return none;
    return finite(`${whole.replaceAll(other, '')}.${fraction}`, none);
  }
  const sign = commas > 0 ? ',' : '.';
  if (commas + points > 1) {
    return grouped(bare, sign) ? finite(bare.replaceAll(sign, ''), none) : none;
  }
  if (commas + points === 1 && decimal !== sign && grouped(bare, sign) && !/^[+-]?0/.test(bare)) {
    const plain = bare.replace(sign, '');
    if (decimal !== null) return finite(plain, none);
    const small = Number(bare.replace(sign, '.'));
    const clear = String(small).split('.')[1]?.length === 3 ? `${small}0` : String(small);
    return {
      fault: `“${text.trim()}” can mean ${plain} or ${small}; write ${plain} or ${clear}.`,
    };
  }
  return finite(bare.replace(',', '.'), none);
}

function finite(plain: string, none: { fault: string }): NumberReading {
  const value = Number(plain);
  return PLAIN.test(plain) && Number.isFinite(value) ? { value } : none;
}

/** The number alone; null when there is none, or two that it could be. */
export function readNumber(text: string, decimal: DecimalSign | null = null): number | null {
  const reading = readingOf(text, decimal);
  return 'value' in reading ? reading.value : null;
}

/** Why a text is no number; null when it is one. */
export function numberFault(text: string, decimal: DecimalSign | null = null): string | null {
  const reading = readingOf(text, decimal);
  return 'fault' in reading ? reading.fault : null;
}

/** How a text is read, where that is not just what stands there: “= 2500.5”. */
export function readBack(text: string): string | null {
  const value = readNumber(text);
  const typed = text.trim();
  return value === null || typed === String(value) || Number(typed) === value ? null : `= ${value}`;
}

/**
 * The sign before decimals in a list, from the numbers in it that can be read one way only.
 * @returns null when none shows it, or they do not agree
 */
export function decimalSignOf(cells: Iterable<string>): DecimalSign | null {
  const seen = new Set<DecimalSign>();
  for (const cell of cells) {
    const bare = cell
      .trim()
      .replace(/^[−+-]/, '')
      .replace(SPACES, '');
    if (!/^[\d.,]+$/.test(bare) || !('value' in readingOf(bare))) continue;
    const at = Math.max(bare.lastIndexOf(','), bare.lastIndexOf('.'));
    if (at < 0) continue;
    const sign = bare[at] as DecimalSign;
    // One sign several times parts thousands, so the other one stands before decimals.
    const thousands = bare.indexOf(sign) !== at;
    seen.add(thousands ? (sign === '.' ? ',' : '.') : sign);
  }
  return seen.size === 1 ? [...seen][0]! : null;
}

/** A number for a file, written so that it can be read one way only. */
export function unmistakable(value: number): string {
  const text = String(value);
  return numberFault(text) === null ? text : `${text}0`;
}
