import { fieldsOf, GEAR_KINDS } from '@/core/chain/kinds';
import { SPEC_FIELDS } from '@/core/chain/specs';
import { BY_HEADER, COLUMNS, headerOf, itemFromCells, plain } from './cells';
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
  ])('say what is wrong with %j', (given, message) => {
    const kind = 'knob positions' in given ? 'preamp' : 'microphone';
    const { draft, faults } = itemFromCells(cells({ name: 'X', kind, ...given }));
    expect(draft).toBeNull();
    expect(faults[0]!.message).toContain(message);
  });
});
