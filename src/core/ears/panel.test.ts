import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { pairDifferences, panelHears } from './panel';

const CENTRES = THIRD_OCTAVES.map(({ centerHz }) => centerHz);
const flat: (number | null)[] = CENTRES.map(() => -40);
const bump = (atHz: number, db: number) =>
  CENTRES.map((hz): number | null => (hz === atHz ? -40 + db : -40));
const at = (centreHz: number, leastDb: number | null) => [{ centreHz, leastDb }];

it('tells by how much two differ in a band, whatever their level', () => {
  const louder = bump(4000, 0.8).map((db) => db! + 3);
  const [only] = pairDifferences(
    new Map([
      ['Kern', flat],
      ['Halde', louder],
    ]),
    CENTRES,
    4000,
  );
  expect(only!.pair).toEqual(['Kern', 'Halde']);
  // 23 thirds from 80 Hz to 12.5 kHz; the mean takes a 23rd of the bump away.
  expect(only!.db).toBeCloseTo(0.8 * (1 - 1 / 23), 9);
  // The third that is nearest to 3 kHz is that of 3.15 kHz.
  const near = bump(3150, 2);
  const [other] = pairDifferences(
    new Map([
      ['Kern', flat],
      ['Halde', near],
    ]),
    CENTRES,
    3000,
  );
  expect(other!.db).toBeCloseTo(2 * (1 - 1 / 23), 9);
});

it('leaves out pairs of which nothing is known there', () => {
  const holes = flat.map((db, i) => (CENTRES[i] === 1000 ? null : db));
  const three = new Map([
    ['Kern', flat],
    ['Halde', holes],
    ['Ostra', bump(1000, 3)],
  ]);
  expect(pairDifferences(three, CENTRES, 1000).map(({ pair }) => pair)).toEqual([
    ['Kern', 'Ostra'],
  ]);
  expect(pairDifferences(new Map(), CENTRES, 1000)).toEqual([]);
});

describe('what a panel can hear at all', () => {
  const two = new Map([
    ['Kern', flat],
    ['Halde', bump(4000, 0.8)],
  ]);

  it('stands beside what two chains differ by', () => {
    const listeners = [at(4000, 1), at(4000, 0.6), at(4000, null), []];
    expect(panelHears(two, CENTRES, listeners)).toEqual([
      'Around 4 kHz the two differ by 0.77 dB. Of 3 of this panel who trained or were tested there, 2 were shown to hear 1.0 dB or less.',
    ]);
  });

  it('counts the pairs of several that differ by so much', () => {
    const three = new Map([...two, ['Ostra', bump(4000, 3)] as const]);
    expect(panelHears(three, CENTRES, [at(4000, 1), [...at(4000, null), ...at(4000, 2)]])).toEqual([
      'Around 4 kHz the chains differ by 0.77 dB to 2.9 dB, 2 of 3 pairs by 2.0 dB or more. Of 2 of this panel who trained or were tested there, 2 were shown to hear 2.0 dB or less.',
    ]);
  });

  it('is told where most were tried first, and as unknown where nobody heard it', () => {
    const said = panelHears(new Map(), CENTRES, [at(250, null), at(3000, 1), at(3000, 2)]);
    expect(said).toEqual([
      'Around 3 kHz: of 2 of this panel who trained or were tested there, 2 were shown to hear 2.0 dB or less.',
      'Around 250 Hz: of 1 of this panel who trained or were tested there, none was shown to hear a change.',
    ]);
    expect(panelHears(two, CENTRES, [[]])).toEqual([]);
  });
});
