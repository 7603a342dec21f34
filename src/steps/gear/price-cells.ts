import { type DecimalSign, readingOf } from '@/core/text/numbers';
import type { Gear, GearDraft } from './schema';

/** Columns of a list of gear that hold money; `cells.ts` puts them among the others. */
export const PRICE = 'price (€)';
export const UP_TO = 'price up to (€)';
export const USED = 'used (€)';
export const RENT = 'rent a day (€)';
export const QUOTED = 'price in its currency';

type Prices = NonNullable<GearDraft['prices']>;
type Read<T> = { value: T | undefined } | { fault: string };

/** Hundredths of money; undefined for an empty cell. */
export function readCents(cell: string, decimal: DecimalSign | null): Read<number> {
  const bare = cell.replace(/€|eur/gi, '').trim();
  if (bare === '') return { value: undefined };
  const reading = readingOf(bare, decimal);
  if ('fault' in reading) return reading;
  const cents = 100 * reading.value;
  return Math.abs(cents - Math.round(cents)) > 1e-6
    ? { fault: 'Write prices with two decimals at most.' }
    : { value: Math.round(cents) };
}

function readRange(cell: string, decimal: DecimalSign | null): Read<[number, number]> {
  const parts = cell.split(/\s*(?:–|—|-|\bto\b|\bbis\b)\s*/);
  if (parts.length > 2) return { fault: 'Write one price, or two as “300 to 450”.' };
  const [from, to] = parts.map((part) => readCents(part, decimal));
  if (!from || 'fault' in from) return from ?? { value: undefined };
  if (to && 'fault' in to) return to;
  if (from.value === undefined) {
    return to ? { fault: 'Write one price, or two as “300 to 450”.' } : { value: undefined };
  }
  return { value: [from.value, to?.value ?? from.value] };
}

function readQuoted(cell: string, decimal: DecimalSign | null): Read<Prices['quoted']> {
  if (cell === '') return { value: undefined };
  const found = /^([\d.,' ]+?)\s*([a-z]{3})(?:\s*(?:at|×|x|@)\s*([\d.,]+))?$/i.exec(cell);
  if (!found) return { fault: 'Write the amount, the currency and the rate: “1200 CHF at 0.95”.' };
  const [, amount = '', currency = '', rate] = found;
  if (rate === undefined) {
    return {
      fault: `Write the rate with it, as “${amount} ${currency.toUpperCase()} at 0.95”: how many € one ${currency.toUpperCase()} is.`,
    };
  }
  const [sum, each] = [amount, rate].map((text) => readingOf(text.trim(), decimal));
  if (!sum || 'fault' in sum) return sum ?? { value: undefined };
  if (!each || 'fault' in each) return each ?? { value: undefined };
  return { value: { amount: sum.value, currency: currency.toUpperCase(), rate: each.value } };
}

const written = (cents: number | undefined) => (cents === undefined ? '' : String(cents / 100));

/** Prices with one of them changed, or taken away. */
export function withPrice(
  prices: Prices | undefined,
  name: keyof Prices,
  value: unknown,
): Partial<Record<keyof Prices, unknown>> {
  const others = Object.entries(prices ?? {}).filter(([other]) => other !== name);
  return Object.fromEntries(value === undefined ? others : [...others, [name, value]]);
}

interface PriceColumn<T> {
  header: string;
  also: string[];
  name: keyof Prices;
  write: (value: T) => string;
  read: (cell: string, decimal: DecimalSign | null) => Read<T>;
}

function column<T>({ header, also, name, write, read }: PriceColumn<T>) {
  return {
    header,
    also,
    write: ({ prices }: Pick<Gear, 'prices'>) => {
      const value = prices?.[name];
      return value === undefined ? '' : write(value as T);
    },
    read: (cell: string, draft: Record<string, unknown>, decimal: DecimalSign | null) => {
      const reading = read(cell, decimal);
      if ('fault' in reading) return reading.fault;
      draft.prices = withPrice(draft.prices as Prices | undefined, name, reading.value);
      return null;
    },
  };
}

/** What else is written of an item's price, as text. */
export const FURTHER_PRICES = [
  column<number>({
    header: UP_TO,
    also: ['price up to'],
    name: 'upToCents',
    write: written,
    read: readCents,
  }),
  column<[number, number]>({
    header: USED,
    also: ['used', 'price used'],
    name: 'usedCents',
    write: ([from, to]) => (from === to ? written(from) : `${written(from)} to ${written(to)}`),
    read: readRange,
  }),
  column<number>({
    header: RENT,
    also: ['rent a day', 'rent'],
    name: 'rentDayCents',
    write: written,
    read: readCents,
  }),
  column<NonNullable<Prices['quoted']>>({
    header: QUOTED,
    also: ['quoted'],
    name: 'quoted',
    write: ({ amount, currency, rate }) => `${amount} ${currency} at ${rate}`,
    read: readQuoted,
  }),
];

/** The column of a field of `prices`. */
export const PRICE_HEADERS: Readonly<Record<keyof Prices, string>> = {
  upToCents: UP_TO,
  usedCents: USED,
  rentDayCents: RENT,
  quoted: QUOTED,
};
