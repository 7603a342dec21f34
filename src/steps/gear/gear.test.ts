import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { seedGear } from '@/worker/demo-gear';
import { gearCsv, readGearCsv } from './csv';
import { readCurve } from './curve';
import { type Gear, GEAR_PAGE, gearDraft, gearQuery, sideBySideQuery } from './schema';
import {
  accessoriesFound,
  addGear,
  changeGear,
  exportGear,
  gearListOf,
  gearOf,
  importGear,
  removeGear,
  restoreGear,
  setCurve,
  sideBySide,
} from './service';
import { plainGear } from '@/steps/test/gear';

withTestDatabase();

let engineer: SignedIn;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
});

const draft = (name: string, more: Record<string, unknown> = {}) =>
  gearDraft.parse({ ...plainGear(name), ...more });

const named = async (name: string): Promise<Gear> => {
  const gear = (await gearOf(engineer)).find((one) => one.name === name);
  if (!gear) throw new Error(`no ${name}`);
  return gear;
};

describe('the list', () => {
  it('takes the demo gear, and gives a file that changes nothing when it is read again', async () => {
    await seedGear(engineer, NOON);
    const gear = await gearOf(engineer);
    expect(gear.length).toBe(20);
    expect(gear.every(({ simulated }) => simulated)).toBe(true);
    const kern = await named('Kern 40');
    expect(kern.specs.sensitivityDb).toBe(-32);
    expect(kern.accessoryIds.length).toBe(2);
    const csv = await exportGear(engineer);
    const again = await importGear(engineer, csv, true, NOON);
    expect(again.faults).toEqual([]);
    expect(new Set(again.rows.map(({ change }) => change))).toEqual(new Set(['same']));
    expect(await exportGear(engineer)).toBe(csv);
    // Into an empty list it makes the same list.
    const other = await testEngineer('Other');
    await importGear(other, csv, true, NOON);
    expect(await exportGear(other)).toBe(csv);
    expect((await gearOf(engineer)).length).toBe(20);
  });

  it('keeps attributes of the studio’s own through files, and leaves them alone where a file has none', async () => {
    const attributes = { weight: '350 g', 'front sockets': '2, one switched' };
    await addGear(engineer, draft('Attributed', { attributes }), NOON);
    expect((await named('Attributed')).attributes).toEqual(attributes);
    const csv = await exportGear(engineer);
    const again = await importGear(engineer, csv, true, NOON);
    expect(new Set(again.rows.map(({ change }) => change))).toEqual(new Set(['same']));
    await importGear(engineer, 'name,kind,maker\nAttributed,microphone,Werk 3', true, NOON);
    expect(await named('Attributed')).toMatchObject({ maker: 'Werk 3', attributes });
    const cell = 'name,kind,attributes\nAttributed,microphone,"Weight : 400 g; outputs: 2"';
    await importGear(engineer, cell, true, NOON);
    expect((await named('Attributed')).attributes).toEqual({ Weight: '400 g', outputs: '2' });
    const found = await gearListOf(engineer, gearQuery.parse({ q: 'OUTPUTS' }));
    expect(found.items.map(({ name }) => name)).toEqual(['Attributed']);
    for (const [odd, message] of [
      ['350 g', 'has no colon'],
      ['weight: 1; Weight: 2', 'stands twice'],
      [': 350 g', 'Give each attribute a name'],
      ['weight:', 'Say what each attribute is'],
      [`${'x'.repeat(41)}: 1`, 'Give each attribute a name'],
      [`weight: ${'x'.repeat(121)}`, 'under 120'],
    ] as const) {
      const { faults } = await importGear(
        engineer,
        `name,kind,attributes\nOdd,microphone,"${odd}"`,
        true,
        NOON,
      );
      expect(faults.map((fault) => [fault.column, fault.message])).toEqual([
        ['attributes', expect.stringContaining(message)],
      ]);
    }
  });

  it('reads figures per pattern, writes them as they are read, and refuses what is none', async () => {
    const row = (cell: string) =>
      `name,kind,patterns,per pattern\nWandel,microphone,cardioid; omni,"${cell}"`;
    const read = async (cell: string) => {
      const { faults } = await importGear(engineer, row(cell), true, NOON);
      return faults.map(({ column, message }) => `${column}: ${message}`);
    };
    expect(await read('Omni=-38/18; cardioid=//134')).toEqual([]);
    expect((await named('Wandel')).specs.perPattern).toEqual([
      { pattern: 'omni', sensitivityDb: -38, selfNoiseDba: 18 },
      { pattern: 'cardioid', maxSplDb: 134 },
    ]);
    const again = await importGear(engineer, await exportGear(engineer), true, NOON);
    expect(new Set(again.rows.map(({ change }) => change))).toEqual(new Set(['same']));
    for (const odd of ['omni', 'omni=', 'omni=x', 'omni=1/2/3/4']) {
      expect((await read(odd))[0]).toContain('Write patterns as “omni=-34/14/130”');
    }
    expect((await read('omni=-380'))[0]).toContain('Sensitivity lies between -90 and 10');
    expect((await read('blob=-38'))[0]).toContain('A pattern is one of');
    expect((await read('figure-eight=-38'))[0]).toContain('not among its patterns');
    expect((await named('Wandel')).specs.perPattern).toHaveLength(2);
  });

  it('keeps what an item costs in other forms, through files and by hand', async () => {
    const prices = {
      upToCents: 130_000,
      usedCents: [60_000, 75_000] as [number, number],
      rentDayCents: 2_500,
      quoted: { amount: 1_100, currency: 'CHF', rate: 1.05 },
    };
    const id = await addGear(engineer, draft('Quoted', { prices }), NOON);
    // 1,100 at 1.05.
    expect(await named('Quoted')).toMatchObject({ id, priceCents: 115_500, prices });
    const before = await gearOf(engineer);
    await importGear(engineer, await exportGear(engineer), true, NOON);
    expect(await gearOf(engineer)).toEqual(before);
    const csv = 'name;kind;used;rent\nQuoted;microphone;;30\n';
    await importGear(engineer, csv, true, NOON);
    const { prices: now } = await named('Quoted');
    expect(now).toEqual({ upToCents: 130_000, rentDayCents: 3_000, quoted: prices.quoted });
    const { version, ...rest } = await named('Quoted');
    await changeGear(engineer, id, { ...rest, prices: { rentDayCents: 1 } }, version);
    expect((await named('Quoted')).prices).toEqual({ rentDayCents: 1 });
  });

  it('sets items side by side in the order that was asked for, its own alone', async () => {
    const [a, b] = [await named('Kern 40'), await named('Attributed')];
    const stranger = await testEngineer('Nobody Known');
    const { items, names } = await sideBySide(engineer, [b.id, a.id, b.id.replace(/./g, '0')]);
    expect(items.map(({ name }) => name)).toEqual(['Attributed', 'Kern 40']);
    expect(Object.keys(names).sort()).toEqual([...a.accessoryIds].sort());
    expect((await sideBySide(stranger, [a.id, b.id])).items).toEqual([]);
    expect(sideBySideQuery.safeParse({ ids: `${a.id},${a.id}` }).success).toBe(false);
    expect(sideBySideQuery.safeParse({ ids: [a.id, b.id] }).success).toBe(false);
  });

  it('refuses a name twice, a change over a newer one, and circles of accessories', async () => {
    const a = await addGear(engineer, draft('Circle A'), NOON);
    await expect(addGear(engineer, draft('circle a'), NOON)).rejects.toThrow(
      'There is an item “circle a” already',
    );
    const b = await addGear(engineer, draft('Circle B', { accessoryIds: [a] }), NOON);
    await expect(
      changeGear(engineer, a, draft('Circle A', { accessoryIds: [b] }), 1),
    ).rejects.toThrow('Circle A and Circle B would be accessories of each other in a circle');
    await expect(
      changeGear(engineer, a, draft('Circle A', { accessoryIds: [a] }), 1),
    ).rejects.toThrow('of itself');
    await changeGear(engineer, a, draft('Circle A', { notes: 'first' }), 1);
    await expect(
      changeGear(engineer, a, draft('Circle A', { notes: 'second' }), 1),
    ).rejects.toThrow('another window');
    expect((await named('Circle A')).notes).toBe('first');
    const stranger = await testEngineer('Stranger');
    await expect(changeGear(stranger, a, draft('Mine'), 2)).rejects.toThrow();
    await expect(addGear(stranger, draft('Mine', { accessoryIds: [a] }), NOON)).rejects.toThrow(
      'not here',
    );
  });

  it('undoes a deletion, unless the name was given away meanwhile', async () => {
    const id = await addGear(engineer, draft('Short-lived'), NOON);
    await removeGear(engineer, id, NOON);
    expect((await gearOf(engineer)).some((gear) => gear.id === id)).toBe(false);
    await restoreGear(engineer, id);
    expect((await named('Short-lived')).id).toBe(id);
    await removeGear(engineer, id, NOON);
    await addGear(engineer, draft('Short-lived'), NOON);
    await expect(restoreGear(engineer, id)).rejects.toThrow('already');
  });
});

describe('specs', () => {
  it.each([
    [{ outputImpedanceOhm: -5 }, 'Output impedance lies between 0.1 and 100000 Ω.'],
    [{ selfNoiseDba: 55, maxSplDb: 40 }, 'Max SPL lies between 80 and 180 dB.'],
    [{ sensitivityDb: 1e9 }, 'Sensitivity lies between'],
    [{ type: 'laser' }, 'type: condenser'],
    [{ nonsense: 1 }, 'nonsense'],
  ])('%j is refused', (specs, message) => {
    expect(() => draft('x', { specs })).toThrow(message);
  });

  it('refuses a price beyond belief, and drops what a kind does not have', () => {
    expect(() => draft('x', { priceCents: 1e11 })).toThrow('too high to be true');
    expect(
      draft('x', { kind: 'pad', specs: { attenuationDb: 20, sensitivityDb: -30 } }).specs,
    ).toEqual({ attenuationDb: 20 });
  });
});

describe('lists from elsewhere', () => {
  const preview = (csv: string, known: Gear[] = []) => {
    const read = readGearCsv(csv, known);
    if ('error' in read) throw new Error(read.error);
    return read;
  };

  it('reads semicolons and decimal commas, millivolts, and tabs as pasted', () => {
    const { items } = preview(
      'Name;Kind;Price;sensitivity (mV/Pa);self-noise (dBA)\nKern;Microphone;1.340,50 €;25,1;9,5\n',
    );
    expect(items[0]!.draft).toMatchObject({
      name: 'Kern',
      kind: 'microphone',
      priceCents: 134_050,
    });
    expect(items[0]!.draft.specs.selfNoiseDba).toBe(9.5);
    // 20·log10(0.0251) = -32.0
    expect(items[0]!.draft.specs.sensitivityDb).toBeCloseTo(-32.01, 2);
    expect(preview('name\tkind\tmaker\nA\tpad\tB').items[0]!.draft.maker).toBe('B');
  });

  it('names each bad cell, keeps the good rows, and tells unknown columns', () => {
    const read = preview(
      'name,kind,price (€),self-noise (dBA),colour\nGood,microphone,10,9,red\nBad,microphone,ten,-400,blue\nWorse,spaceship,1,,\nGood,pad,,,\n',
    );
    expect(read.preview.unknownColumns).toEqual(['colour']);
    expect(read.preview.rows.map(({ change }) => change)).toEqual([
      'new',
      'fault',
      'fault',
      'fault',
    ]);
    expect(read.preview.faults.map(({ line, column }) => [line, column])).toEqual([
      [3, 'price (€)'],
      [3, 'self-noise (dBA)'],
      [4, 'kind'],
      [5, 'name'],
    ]);
    expect(read.preview.faults[0]).toMatchObject({
      value: 'ten',
      message: '“ten” is not a number.',
    });
    expect(read.items.length).toBe(1);
  });

  it('leaves columns alone that the file does not have', async () => {
    const before = await named('Kern 40');
    await importGear(
      engineer,
      'name,kind,notes\nKern 40,microphone,=2+2 is not computed\n',
      true,
      NOON,
    );
    const after = await named('Kern 40');
    expect(after.notes).toBe('=2+2 is not computed');
    expect(after.specs).toEqual(before.specs);
    expect(after.accessoryIds).toEqual(before.accessoryIds);
    expect(gearCsv([after])).toContain("'=2+2");
  });

  it.each([
    ['', 'no row'],
    ['name,kind\n', 'no row'],
    ['what,ever\n1,2\n', 'no column “name”'],
    [`name,kind\n${'x,pad\n'.repeat(50_000)}`, '50000 rows; 5000 at a time'],
  ])('refuses %# in a sentence', (csv, message) => {
    const read = readGearCsv(csv, []);
    expect('error' in read ? read.error : '').toContain(message);
  });
});

describe('curves', () => {
  it('reads two or three columns with any usual mark between them', () => {
    expect(readCurve('* made up\nHz Ohm\n20 200\n100 400.5\n', 'impedance')).toEqual([
      [20, 200],
      [100, 400.5],
    ]);
    // Three decimals are no thousands in lines of bare numbers, unless commas stand before decimals.
    expect(readCurve('20.000 -1.250\n40.500 -3.125', 'response')).toEqual([
      [20, -1.25],
      [40.5, -3.125],
    ]);
    expect(readCurve('1.000;-1,5\n2.000;-3,125', 'response')).toEqual([
      [1000, -1.5],
      [2000, -3.125],
    ]);
    expect(readCurve('20;-1,5;10\n40;0;-5', 'response')).toEqual([
      [20, -1.5, 10],
      [40, 0, -5],
    ]);
    expect(readCurve('20,200\n40,210', 'impedance')).toEqual([
      [20, 200],
      [40, 210],
    ]);
    expect(readCurve('20, 200, 3\n40, 210, 4', 'impedance')).toEqual([
      [20, 200, 3],
      [40, 210, 4],
    ]);
  });

  it.each([
    ['20 200', 'two points at least'],
    ['20 200\n10 300', 'Line 2 of the curve does not rise'],
    ['20 -4\n30 3', 'Line 1 of the curve has an impedance of -4'],
    ['20 200\n30 x', 'Line 2 of the curve cannot be read: “x”'],
    ['20 1 2 3 4\n30 1', 'has 5 columns'],
  ])('%j is refused, naming the line', (text, message) => {
    expect(() => readCurve(text, 'impedance')).toThrow(message);
  });

  it('keeps a curve with its item, and takes it away again', async () => {
    const { id, version } = await named('Moor D1');
    expect(await setCurve(engineer, id, 'impedance', '20 210\n150 450\n20000 380', version)).toBe(
      3,
    );
    expect((await named('Moor D1')).impedanceCurve?.[1]).toEqual([150, 450]);
    await expect(setCurve(engineer, id, 'impedance', '', version)).rejects.toThrow(
      'another window',
    );
    await setCurve(engineer, id, 'impedance', '', version + 1);
    expect((await named('Moor D1')).impedanceCurve).toBeNull();
  });
});

describe('the list', () => {
  const asked = (given: Record<string, unknown>) => gearQuery.parse(given);
  const MANY = GEAR_PAGE + 7;

  async function studioOfMany(): Promise<SignedIn> {
    const owner = await testEngineer(`Owner ${Math.random()}`);
    const rows = Array.from({ length: MANY }, (_, i) => {
      const kind = i % 3 === 0 ? 'accessory' : 'microphone';
      // Several cost the same, some have no price; every fifth has marks.
      const price = i % 4 === 0 ? '' : String((i * 37) % 50);
      return `Item ${i},${kind},${price},${i % 5 === 0 ? 1 + (i % 4) : ''},${kind === 'microphone' && i % 2 ? '12' : ''}`;
    });
    const header = 'name,kind,price,mark: build,self-noise (dBA)';
    await importGear(owner, [header, ...rows].join('\n'), true, NOON);
    return owner;
  }

  it('pages through every item once, in each order', async () => {
    const owner = await studioOfMany();
    for (const sort of ['kind', 'name', 'price', '-price', 'marks', '-marks', '-ownership']) {
      const pages = await Promise.all(
        ['1', '2'].map((page) => gearListOf(owner, asked({ sort, page }))),
      );
      const items = pages.flatMap((page) => page.items);
      expect(new Set(items.map(({ id }) => id)).size).toBe(MANY);
      expect(pages.map((page) => page.items.length)).toEqual([GEAR_PAGE, 7]);
      if (!sort.endsWith('price')) continue;
      // Without a price comes last, whichever way round.
      const prices = items.map(({ priceCents }) => priceCents);
      const known = prices.filter((price) => price !== null);
      const ordered = [...known].sort((a, b) => (sort === 'price' ? a - b : b - a));
      expect(prices).toEqual([...ordered, ...prices.slice(known.length).map(() => null)]);
    }
  });

  it('says of the whole what one page cannot', async () => {
    const owner = await studioOfMany();
    const list = await gearListOf(owner, asked({ q: 'ITEM 10', page: '99' }));
    // 10 and 100 to 106.
    expect(list).toMatchObject({ found: 8, all: MANY, simulated: false, query: { page: 1 } });
    const whole = await gearOf(owner);
    const bare = whole.filter(({ kind, specs }) => kind === 'microphone' && !specs.selfNoiseDba);
    expect(list.bare).toBe(bare.length);
    expect(list.bareNames).toHaveLength(6);
    const odd = await gearListOf(owner, asked({ sort: '-name; DROP TABLE gear', q: ['x'] }));
    expect(odd.query).toEqual({ q: '', sort: 'kind', page: 1 });
  });

  it('finds what was typed as it is written, and nobody else’s', async () => {
    const owner = await testEngineer('Finding');
    const stranger = await testEngineer('Strange');
    await addGear(owner, draft('50% felt_ring', { kind: 'accessory' }), NOON);
    await addGear(owner, draft('Felt mount', { kind: 'accessory' }), NOON);
    await addGear(owner, draft('Felt 7'), NOON);
    await addGear(stranger, draft('felt of others', { kind: 'accessory' }), NOON);
    const names = async (q: string) => (await accessoriesFound(owner, q)).map(({ name }) => name);
    expect(await names('FELT')).toEqual(['50% felt_ring', 'Felt mount']);
    expect(await names('%')).toEqual(['50% felt_ring']);
    expect(await names('_')).toEqual(['50% felt_ring']);
    const { items } = await gearListOf(owner, asked({ q: 'felt' }));
    expect(items.map(({ name }) => name)).toEqual(['Felt 7', '50% felt_ring', 'Felt mount']);
  });

  it('names what an item comes with', async () => {
    const owner = await testEngineer('Naming');
    const ids = await Promise.all(
      ['Zinc clip', 'ash case'].map((name) =>
        addGear(owner, draft(name, { kind: 'accessory' }), NOON),
      ),
    );
    await addGear(owner, draft('Kern', { accessoryIds: ids }), NOON);
    const { items } = await gearListOf(owner, asked({}));
    expect(items[0]!.accessories).toEqual([
      { id: ids[1], name: 'ash case' },
      { id: ids[0], name: 'Zinc clip' },
    ]);
  });
});
