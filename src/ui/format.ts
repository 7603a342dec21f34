/** Numbers as they are shown: a true minus, a sign for levels, units always there. */

const MINUS = '−';

export function signed(value: number | null | undefined, digits: number, unit: string): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return '–';
  const text = Math.abs(value).toFixed(digits);
  const zero = Number(text) === 0;
  return `${zero ? '' : value < 0 ? MINUS : '+'}${text} ${unit}`;
}

/** A level that is negative as a rule, such as LUFS: no plus. */
export function level(value: number | null | undefined, digits: number, unit = ''): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return '–';
  const tail = unit ? ` ${unit}` : '';
  return `${value < 0 ? MINUS : ''}${Math.abs(value).toFixed(digits)}${tail}`;
}

export function money(cents: number | null): string {
  if (cents === null) return '–';
  return `${(cents / 100).toLocaleString('en-GB', {
    minimumFractionDigits: cents % 100 ? 2 : 0,
    maximumFractionDigits: 2,
  })} €`;
}

/** “250 Hz”, “4 kHz”. */
export const hertz = (hz: number) => (hz >= 1000 ? `${hz / 1000} kHz` : `${hz} Hz`);

export function clock(seconds: number): string {
  const whole = Math.floor(seconds);
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const two = (n: number) => String(n).padStart(2, '0');
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`;
}

export function bytes(count: number): string {
  if (count < 1e6) return `${Math.ceil(count / 1000)} kB`;
  return count < 1e9 ? `${(count / 1e6).toFixed(1)} MB` : `${(count / 1e9).toFixed(2)} GB`;
}

export function day(date: Date | string): string {
  return new Date(date).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });
}

/** A day, where the hour does not matter but the year may. */
export function date(when: Date | string): string {
  return new Date(when).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
  });
}

const NUMBER_WORDS = [
  'No',
  'One',
  'Two',
  'Three',
  'Four',
  'Five',
  'Six',
  'Seven',
  'Eight',
  'Nine',
  'Ten',
  'Eleven',
  'Twelve',
];

/** “Six clips”: a count that begins a sentence. */
export function countWord(count: number, one: string, many = `${one}s`): string {
  return `${NUMBER_WORDS[count] ?? count} ${count === 1 ? one : many}`;
}
