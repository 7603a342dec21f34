import { fieldsOf, GEAR_KINDS } from '@/core/chain/kinds';
import { SPEC_FIELDS } from '@/core/chain/specs';
import { BY_HEADER, COLUMNS, headerOf, itemFromCells, plain } from './cells';
import type { Gear } from './schema';
import { specLine } from './ui/spec-line';

it('says in one line what is known, with units and a true minus', () => {
  expect(
    specLine({
      kind: 'microphone',
      specs: { type: 'ribbon', patterns: ['figure-eight'], sensitivityDb: -54, padsDb: [10, 20] },
    }),
  ).toBe('ribbon · figure-eight · sensitivity −54 dB re 1 V/Pa · pads 10, 20 dB');
  expect(
    specLine({ kind: 'preamp', specs: { knob: [{ position: '3', gainDb: 25 }], maxGainDb: 60 } }),
  ).toBe('most gain 60 dB · knob positions 3: 25 dB');
  expect(specLine({ kind: 'accessory', specs: {} })).toBe('');
});

it('names every spec once, with a unit or without, for at least one kind', () => {
  const headers = COLUMNS.map(({ header }) => header);
  expect(new Set(headers).size).toBe(headers.length);
  for (const field of SPEC_FIELDS) {
    expect(BY_HEADER.get(plain(headerOf(field)))?.header).toBe(headerOf(field));
    expect(GEAR_KINDS.some((kind) => fieldsOf(kind).includes(field))).toBe(true);
    if ('least' in field) expect(field.least).toBeLessThan(field.most);
  }
  expect(GEAR_KINDS.filter((kind) => fieldsOf(kind).length === 0)).toEqual([
    'capsule',
    'accessory',
  ]);
});

describe('cells', () => {
  const cells = (given: Record<string, string>) =>
    Object.entries(given).map(([header, text]) => {
      const column = BY_HEADER.get(plain(header));
      if (!column) throw new Error(header);
      return [column, text] as const;
    });

  it('make an item, whatever the spelling of choices and numbers', () => {
    const { draft, faults } = itemFromCells(
      cells({
        Name: 'Kern 40',
        KIND: 'Microphone',
        type: 'Condenser',
        patterns: 'Cardioid; OMNI',
        'pads (dB)': '10; 20,5',
        'mark: build': '4',
        ownership: '',
      }),
    );
    expect(faults).toEqual([]);
    expect(draft).toMatchObject({
      kind: 'microphone',
      ownership: 'owned',
      specs: { type: 'condenser', patterns: ['cardioid', 'omni'], padsDb: [10, 20.5] },
      scores: { build: 4 },
    });
  });

  it.each([
    [{ 'knob positions': '3' }, 'Write knob positions as “3=25”; “3” has no gain.'],
    [{ 'mark: build': '9' }, 'Marks go from 1 to 5.'],
    [{ 'pads (dB)': '10; ten' }, '“ten” is not a number.'],
    [{ patterns: 'lobar' }, 'patterns: omni'],
    [{ 'price (€)': '12.345' }, 'can mean 12345 or 12.345'],
    [{ 'price (€)': '1234.567' }, 'two decimals at most'],
    [{ 'price (€)': '100', 'price up to (€)': '90' }, 'Write the lower end as the price'],
    [{ 'price up to (€)': '90' }, 'Write the lower end as the price'],
    [{ 'used (€)': '450 to 300' }, 'Write the lower price first.'],
    [{ 'used (€)': '1 to 2 to 3' }, 'as “300 to 450”'],
    [{ 'used (€)': 'to 300' }, 'as “300 to 450”'],
    [{ 'rent a day (€)': 'ten' }, 'not a number'],
    [{ 'price in its currency': '1200 CHF' }, 'Write the rate with it, as “1200 CHF at 0.95”'],
    [{ 'price in its currency': 'CHF' }, 'Write the amount, the currency and the rate'],
    [{ 'price in its currency': '1200 CHF at 0' }, 'A rate is above zero'],
    [{ 'price in its currency': '9000000 CHF at 900000' }, 'too high to be true'],
  ])('say what is wrong with %j', (given, message) => {
    const kind = 'knob positions' in given ? 'preamp' : 'microphone';
    const { draft, faults } = itemFromCells(cells({ name: 'X', kind, ...given }));
    expect(draft).toBeNull();
    expect(faults[0]!.message).toContain(message);
  });
});

describe('prices', () => {
  const cells = (given: Record<string, string>) =>
    Object.entries(given).map(([header, text]) => [BY_HEADER.get(plain(header))!, text] as const);
  const read = (given: Record<string, string>, old?: Gear) =>
    itemFromCells(cells(given), old).draft;
  const quoted = {
    name: 'Ufer',
    kind: 'microphone',
    'price in its currency': '1200 chf at 0.95',
    'used (€)': '300–450,50',
    'rent a day (€)': '12.5 €',
  };

  it('follow from a quotation at its rate, which is kept', () => {
    expect(read(quoted)).toMatchObject({
      priceCents: 114_000,
      prices: {
        quoted: { amount: 1200, currency: 'CHF', rate: 0.95 },
        usedCents: [30_000, 45_050],
        rentDayCents: 1_250,
      },
    });
  });

  it('stand in the list as they are read again', () => {
    const made = { ...read(quoted)!, accessoryIds: [] } as unknown as Gear;
    const again = Object.fromEntries(
      COLUMNS.map((column) => [column.header, column.write(made, () => '')]),
    );
    expect(again).toMatchObject({
      'price (€)': '1140',
      'used (€)': '300 to 450.5',
      'price in its currency': '1200 CHF at 0.95',
      'price up to (€)': '',
    });
    expect(read(again)?.prices).toEqual(made.prices);
    expect(read(again)?.priceCents).toBe(114_000);
  });

  it('do not follow from a quotation any more once another price is written', () => {
    const made = { ...read(quoted)!, accessoryIds: [] } as unknown as Gear;
    const corrected = read({ 'price (€)': '1000' }, made);
    expect(corrected).toMatchObject({
      priceCents: 100_000,
      prices: { usedCents: [30_000, 45_050] },
    });
    expect(corrected?.prices?.quoted).toBeUndefined();
    expect(read({ notes: 'x' }, made)).toMatchObject({ priceCents: 114_000, notes: 'x' });
    expect(read({ 'used (€)': '' }, made)?.prices?.usedCents).toBeUndefined();
  });
});
