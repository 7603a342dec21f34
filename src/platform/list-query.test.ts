import fc from 'fast-check';
import { listAddress, listQueryOf, pageWithin } from './list-query';

const query = listQueryOf(['newest', 'oldest', 'title']);
const USUAL = { q: '', sort: 'newest', page: 1 };

describe('what an address says of a list', () => {
  it.each([
    [{}, USUAL],
    [
      { q: '  cello ', sort: 'title', page: '3' },
      { q: 'cello', sort: 'title', page: 3 },
    ],
    [{ q: ['a', 'b'], sort: ['title'], page: ['2', '3'] }, USUAL],
    [{ q: 'x'.repeat(81), sort: 'TITLE', page: '0' }, USUAL],
    [{ page: '2.5' }, USUAL],
    [{ page: '1e9' }, USUAL],
    [{ page: '-1; DROP TABLE comparison' }, USUAL],
    [{ sort: '__proto__' }, USUAL],
  ])('%j', (given, read) => expect(query.parse(given)).toEqual(read));

  it('never fails, whatever stands in it', () => {
    fc.assert(
      fc.property(fc.dictionary(fc.constantFrom('q', 'sort', 'page'), fc.anything()), (given) => {
        const read = query.parse(given);
        expect(['newest', 'oldest', 'title']).toContain(read.sort);
        expect(Number.isInteger(read.page) && read.page >= 1).toBe(true);
      }),
    );
  });
});

describe('the address of a list', () => {
  it('says only what is not usual', () => {
    expect(listAddress('/', USUAL, { sort: 'newest' })).toBe('/');
    expect(listAddress('/panel', { ...USUAL, sort: 'title' }, { sort: 'newest' })).toBe(
      '/panel?sort=title',
    );
    expect(listAddress('/', { q: 'a&b=c', sort: 'newest', page: 2 }, { sort: 'newest' })).toBe(
      '/?q=a%26b%3Dc&page=2',
    );
    const more = { ...USUAL, show: 'odd', page: 3 };
    expect(listAddress('/takes', more, { sort: 'newest', show: 'all' })).toBe(
      '/takes?show=odd&page=3',
    );
    expect(listAddress('/takes', more, { sort: 'newest', show: 'odd' })).toBe('/takes?page=3');
  });

  it('is read back as it was written', () => {
    fc.assert(
      fc.property(
        fc.record({
          q: fc.string({ maxLength: 80 }).map((text) => text.trim()),
          sort: fc.constantFrom('newest' as const, 'oldest' as const, 'title' as const),
          page: fc.integer({ min: 1, max: 100_000 }),
        }),
        (wanted) => {
          const { searchParams } = new URL(
            listAddress('/', wanted, { sort: 'newest' }),
            'http://bank',
          );
          expect(query.parse(Object.fromEntries(searchParams))).toEqual(wanted);
        },
      ),
    );
  });
});

it.each([
  [1, 0, 1],
  [3, 50, 2],
  [2, 50, 2],
  [2, 51, 2],
  [9, 51, 3],
])('of page %i among %i lines shows page %i', (wanted, found, page) => {
  expect(pageWithin(wanted, found, 25)).toBe(page);
});
