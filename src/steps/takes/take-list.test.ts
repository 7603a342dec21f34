import { LIST_PAGE } from '@/platform/list-query';
import { takesQuery } from './schema';
import { takeList } from './take-list';

type Given = Parameters<typeof takeList>[0][number];

const take = (fileName: string, more: Partial<Given> = {}): Given => ({
  id: fileName,
  fileName,
  chainId: 'alder',
  sourceId: 'voice',
  programme: 'performance',
  state: 'ready',
  checks: [],
  performance: null,
  ...more,
});
const look = (takes: Given[], asked: Record<string, unknown>) =>
  takeList(takes, takesQuery.parse(asked), ({ id }) => ({ id }));
const ids = (takes: Given[], asked: Record<string, unknown>) =>
  look(takes, asked).items.map(({ id }) => id);

const TAKES = [
  take('Alder room.wav', { programme: 'room' }),
  take('Birch 1.wav', { chainId: 'birch' }),
  take('Alder 2.wav'),
  take('alder 1.wav'),
  take('nobody’s.wav', { chainId: null }),
  take('Alder cello.wav', { sourceId: 'cello' }),
  take('backing.wav', { chainId: null, programme: 'backing' }),
  take('broken.wav', { state: 'refused', chainId: null }),
];

it('tells how often somebody played', () => {
  expect(look(TAKES, {}).lastPerformance).toBe(0);
  const again = take('Alder 3.wav', {
    performance: { number: 3, ground: 'name', renderedFrom: null },
  });
  expect(look([...TAKES, again], {}).lastPerformance).toBe(3);
});

it('shows the music first as it arrived, then the programme; or by name', () => {
  expect(ids(TAKES, {})).toEqual([
    'Birch 1.wav',
    'Alder 2.wav',
    'alder 1.wav',
    'nobody’s.wav',
    'Alder cello.wav',
    'broken.wav',
    'Alder room.wav',
    'backing.wav',
  ]);
  expect(ids(TAKES, { sort: 'name', q: 'alder' })).toEqual([
    'alder 1.wav',
    'Alder 2.wav',
    'Alder cello.wav',
    'Alder room.wav',
  ]);
});

it.each([
  [{ show: 'room' }, ['Alder room.wav']],
  [{ show: 'odd' }, ['broken.wav']],
  [{ show: 'free' }, ['nobody’s.wav', 'broken.wav', 'backing.wav']],
  [{ show: 'free', q: 'NOBODY' }, ['nobody’s.wav']],
  [{ q: '.*' }, []],
])('narrows to %j', (asked, found) => expect(ids(TAKES, asked)).toEqual(found));

it('takes what is odd in an address as not said', () => {
  expect(takesQuery.parse({ show: '__proto__', sort: ['name'], page: '0', tab: 'x' })).toEqual({
    q: '',
    sort: 'step',
    page: 1,
    show: 'all',
    tab: 'files',
  });
});

it('says of all what one page cannot', () => {
  const { byChain, performances, chainsWithOne, steps, all, found, names } = look(TAKES, {
    q: 'birch',
  });
  expect(byChain).toEqual({ alder: 4, birch: 1, '': 2 });
  expect({ performances, chainsWithOne, all, found }).toEqual({
    performances: 4,
    chainsWithOne: 2,
    all: 8,
    found: 1,
  });
  expect(steps).toEqual(['performance', 'room', 'backing']);
  expect(names).toEqual(TAKES.slice(0, 4).map(({ fileName }) => fileName));
});

it('knows which have others of the same music, also on another page', () => {
  const several = look(TAKES, { q: 'alder' }).items.flatMap((one) => (one.several ? [one.id] : []));
  expect(several).toEqual(['Alder 2.wav', 'alder 1.wav', 'Alder room.wav']);
});

it('pages, and gives the last page to whoever asks behind it', () => {
  const many = Array.from({ length: 2 * LIST_PAGE + 1 }, (_, i) => take(`take ${i}.wav`));
  const pages = ['1', '2', '3'].flatMap((page) => ids(many, { page }));
  expect(pages).toEqual(many.map(({ id }) => id));
  expect(look(many, { page: '99' })).toMatchObject({ query: { page: 3 }, found: many.length });
});
