import { type Outcomes, type RememberedChain, shortestBench } from './shortest-bench';

const NEVER: Outcomes = { won: 0, 'may be the best': 0, behind: 0, 'nothing shown': 0 };
const chain = (
  name: string,
  alike: Partial<Outcomes>,
  elsewhere: Partial<Outcomes> = {},
  euros: number | null = 1000,
  spectra: RememberedChain['spectra'] = new Map(),
): RememberedChain => ({
  key: name,
  name,
  priceCents: euros === null ? null : euros * 100,
  alike: { ...NEVER, ...alike },
  elsewhere: { ...NEVER, ...elsewhere },
  spectra,
});
const names = (all: RememberedChain[]) => {
  const { picks, wildcard, twins } = shortestBench(all);
  return [
    picks.map(({ name }) => name),
    wildcard?.name ?? null,
    twins.map((one) => one.chain.name),
  ];
};

describe('shortest bench', () => {
  it('lets each figure decide only where those before it are the same', () => {
    const all = [
      chain('dear', { 'may be the best': 1 }, {}, 2000),
      chain('cheaper', { 'may be the best': 1 }, {}, 900),
      chain('won', { won: 1 }),
      chain('led twice', { 'may be the best': 2, behind: 5 }),
      chain('was behind', { 'may be the best': 1, behind: 1 }, { won: 9 }),
    ];
    expect(names(all)).toEqual([['led twice', 'won', 'cheaper'], null, []]);
    expect(names(all.slice(0, 3).concat(all[4]!))).toEqual([['won', 'cheaper', 'dear'], null, []]);
  });

  it('takes one that led elsewhere only where it was never behind in such a place', () => {
    const all = [
      chain('elsewhere', {}, { won: 1 }),
      chain('behind here', { behind: 1 }, { won: 4 }),
      chain('unheard', {}),
    ];
    expect(names(all)).toEqual([['elsewhere'], null, []]);
  });

  it('adds the cheapest that was never behind there, if it is cheaper than all of them', () => {
    const all = [
      chain('won', { won: 1 }, {}, 1000),
      chain('level', { 'nothing shown': 1 }, {}, 300),
      chain('unheard', {}, {}, 200),
      chain('behind', { behind: 1 }, {}, 100),
      chain('unpriced', {}, {}, null),
      chain('as dear', {}, {}, 1000),
    ];
    expect(names(all)).toEqual([['won'], 'unheard', []]);
    expect(names(all.filter(({ name }) => name !== 'unheard'))).toEqual([['won'], 'level', []]);
    expect(names(all.slice(0, 1).concat(all.slice(3)))).toEqual([['won'], null, []]);
  });

  it('without anything that was heard proposes nothing but the cheapest', () => {
    expect(names([chain('a', {}, {}, 400), chain('b', {}, {}, 300)])).toEqual([[], 'b', []]);
    expect(names([])).toEqual([[], null, []]);
  });

  it('passes over whose tone is that of one before it in the same performance', () => {
    const flat = new Array<number>(30).fill(-40);
    const tilted = flat.map((level, i) => level + (i < 15 ? 3 : -3));
    const louder = flat.map((level) => level + 6);
    const heard = (levels: number[], set = 'set') => new Map([[set, levels]]);
    const all = [
      chain('first', { won: 3 }, {}, 1000, heard(flat)),
      chain('twin', { won: 2 }, {}, 200, heard(louder)),
      chain('other', { won: 1 }, {}, 1000, heard(tilted)),
      chain('other set', { 'may be the best': 1 }, {}, 1000, heard(flat, 'another')),
    ];
    expect(names(all)).toEqual([['first', 'other', 'other set'], null, ['twin']]);
    expect(shortestBench(all).twins[0]).toMatchObject({ of: { name: 'first' }, apartDb: 0 });
    // Nothing can be said of spectra with hardly a band in common.
    const few = chain('few', { won: 2 }, {}, 200, heard(flat.slice(0, 7)));
    expect(names([all[0]!, few])).toEqual([['first', 'few'], null, []]);
  });
});
