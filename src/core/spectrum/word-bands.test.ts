import { THIRD_OCTAVES } from './bands';
import { ownSpectrum, wordBands } from './word-bands';

const flat = () => THIRD_OCTAVES.map((): number | null => -30);
const lifted = (fromHz: number, toHz: number, db: number) =>
  THIRD_OCTAVES.map(({ centerHz }) => (centerHz >= fromHz && centerHz <= toHz ? -30 + db : -30));

it('names the bands in which the chains of a word differ from the others', () => {
  const levels = new Map([
    ['A', lifted(5000, 10000, -4)],
    ['B', lifted(5000, 10000, -6)],
    ['C', flat()],
    ['D', flat()],
  ]);
  expect(wordBands({ A: 7, B: 6, C: 1, D: 0 }, levels)).toEqual({
    chains: ['A', 'B'],
    ranges: [{ fromHz: 5000, toHz: 10000, differenceDb: -5 }],
  });
});

it('keeps a rise and a fall beside each other apart', () => {
  const levels = new Map([
    ['A', lifted(1000, 1600, 3).map((own, i) => own + lifted(2000, 4000, -3)[i]! + 30)],
    ['B', flat()],
  ]);
  expect(wordBands({ A: 3, B: 0 }, levels).ranges).toEqual([
    { fromHz: 1000, toHz: 1600, differenceDb: 3 },
    { fromHz: 2000, toHz: 4000, differenceDb: -3 },
  ]);
});

it.each([
  ['what is within 1.5 dB', lifted(1000, 4000, 1.5)],
  ['what lies below 80 Hz', lifted(25, 63, 9)],
  ['what lies above 12.5 kHz', lifted(16000, 20000, 9)],
  ['bands that carry nothing', flat().map(() => null)],
])('leaves out %s', (_, own) => {
  const levels = new Map([
    ['A', own],
    ['B', flat()],
  ]);
  expect(wordBands({ A: 3, B: 0 }, levels).ranges).toEqual([]);
});

it('tells no bands where a chain has no spectrum, or all were ticked alike', () => {
  expect(wordBands({ A: 3, B: 0 }, new Map([['A', flat()]])).ranges).toEqual([]);
  expect(
    wordBands(
      { A: 2, B: 2 },
      new Map([
        ['A', flat()],
        ['B', lifted(1000, 2000, 6)],
      ]),
    ),
  ).toEqual({
    chains: [],
    ranges: [],
  });
});

describe('a chain against the mean of the others', () => {
  const levels = new Map([
    ['A', lifted(5000, 10000, -4)],
    ['B', lifted(5000, 10000, 2)],
    ['C', flat()],
  ]);
  const at = (hz: number) => THIRD_OCTAVES.findIndex(({ centerHz }) => centerHz === hz);

  it('is what it has over their mean, third by third', () => {
    const { differenceDb, ranges } = ownSpectrum('A', ['A', 'B', 'C'], levels);
    // The others' mean is −30 + (2 + 0) / 2 there.
    expect(differenceDb[at(8000)]).toBeCloseTo(-5, 12);
    expect(differenceDb[at(1000)]).toBeCloseTo(0, 12);
    expect(ranges).toEqual([{ fromHz: 5000, toHz: 10000, differenceDb: -5 }]);
  });

  it('is nothing where a level-matched clip carries little but noise, and where another has none', () => {
    const { differenceDb } = ownSpectrum('A', ['A', 'B', 'C'], levels);
    expect([differenceDb[at(63)], differenceDb[at(16000)]]).toEqual([null, null]);
    expect(ownSpectrum('A', ['A', 'D'], levels).differenceDb.every((db) => db === null)).toBe(true);
    expect(ownSpectrum('A', ['A'], levels).ranges).toEqual([]);
  });
});
