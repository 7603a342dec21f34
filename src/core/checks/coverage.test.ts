import { coverageOf, type Covered } from './coverage';

const of = (chainId: string, programme: string, detail = '', sourceId = 'voice'): Covered => ({
  chainId,
  sourceId,
  programme,
  detail,
});

describe('what is there of every chain', () => {
  it('stands in the order of the programme, details by size', () => {
    const { columns } = coverageOf(
      ['a'],
      [],
      [
        of('a', 'room'),
        of('a', 'off-axis', '180'),
        of('a', 'off-axis', '90'),
        of('a', 'performance'),
      ],
    );
    expect(columns.map(({ programme, detail }) => `${programme} ${detail}`.trim())).toEqual([
      'performance',
      'room',
      'off-axis 90',
      'off-axis 180',
    ]);
  });

  it('counts takes, and finds what one chain lacks and another has', () => {
    const { rows, gaps } = coverageOf(
      ['a', 'b'],
      [],
      [of('a', 'performance'), of('a', 'performance'), of('b', 'performance'), of('a', 'room')],
    );
    expect(rows[0]!.cells.map(({ takes }) => takes)).toEqual([2, 1]);
    expect(rows[1]!.cells).toEqual([
      { takes: 1, wanted: 1 },
      { takes: 0, wanted: 1 },
    ]);
    expect(gaps).toBe(1);
  });

  it('misses nothing that the sheet leaves out on purpose, and everything that it asks for', () => {
    const { rows, gaps } = coverageOf(
      ['condenser', 'ribbon'],
      [of('condenser', 'plosives'), of('condenser', 'room'), of('ribbon', 'room')],
      [of('condenser', 'plosives')],
    );
    const [room, plosives] = rows[1]!.cells;
    expect(room).toEqual({ takes: 0, wanted: 1 });
    expect(plosives).toEqual({ takes: 0, wanted: 0 });
    expect(gaps).toBe(2);
  });

  it('counts what is missing of several performances', () => {
    const twice = [of('a', 'performance'), of('a', 'performance')];
    const { rows, gaps } = coverageOf(['a'], twice, [of('a', 'performance')]);
    expect(rows[0]!.cells).toEqual([{ takes: 1, wanted: 2 }]);
    expect(gaps).toBe(1);
    // More than was asked for fills no other gap.
    expect(coverageOf(['a', 'b'], [], [...twice, of('b', 'room')]).gaps).toBe(2);
  });

  it('keeps sources apart, and has nothing of nothing', () => {
    const { columns, gaps } = coverageOf(
      ['a'],
      [],
      [of('a', 'performance'), of('a', 'performance', '', 'cello')],
    );
    expect(columns).toHaveLength(2);
    expect(gaps).toBe(0);
    expect(coverageOf([], [], [])).toEqual({ columns: [], rows: [], gaps: 0 });
  });
});
