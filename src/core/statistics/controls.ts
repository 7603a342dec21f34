import { signTest } from './distributions';
import { type Observation, type Of, ofOneScale } from './observation';
import { meanOf } from './rating/cells';
import { pText } from './words';

/** Two sides of a control: how often each was chosen, and over listeners. */
export interface Sides {
  n: number;
  one: number;
  other: number;
  neither: number;
  /** Listeners who chose one side more often than the other. */
  listenersOne: number;
  listenersOther: number;
  /** Exact sign test over them; null for fewer than six. */
  p: number | null;
}

/** What the controls show; null where none was asked. Nobody is weighted or dropped by it. */
export interface Controls {
  /** A recording against itself: the first, and the second. */
  self: Sides | null;
  /** The same recording 1 dB louder: the louder, and the softer. */
  levelCatch: Sides | null;
  /** Pairs asked twice, the other way round. */
  repeats: { n: number; alike: number; byChance: number } | null;
  /** Recordings placed twice: mean distance, and what one placing scatters by. */
  places: { n: number; apart: number; scatter: number } | null;
  /** The reference itself, hidden among the others. */
  hidden: { n: number; mean: number; scale: string } | null;
}

export const NO_CONTROLS: Controls = {
  self: null,
  levelCatch: null,
  repeats: null,
  places: null,
  hidden: null,
};

const DECIDED_FROM = 6;

/** @param sideOf 1 and −1 for the two sides, 0 for neither */
function sides(own: readonly Of<'pair'>[], sideOf: (one: Of<'pair'>) => number): Sides | null {
  if (own.length === 0) return null;
  const counts = { one: 0, other: 0, neither: 0 };
  const net = new Map<string, number>();
  for (const answer of own) {
    const side = sideOf(answer);
    counts[side > 0 ? 'one' : side < 0 ? 'other' : 'neither']++;
    net.set(answer.listener, (net.get(answer.listener) ?? 0) + side);
  }
  const [listenersOne, listenersOther] = [1, -1].map(
    (sign) => [...net.values()].filter((sum) => Math.sign(sum) === sign).length,
  ) as [number, number];
  const decided = listenersOne + listenersOther;
  const p = decided < DECIDED_FROM ? null : signTest(listenersOne, decided);
  return { n: own.length, ...counts, listenersOne, listenersOther, p };
}

const SIGN = { a: 1, b: -1, tie: 0 } as const;
const isFirst = ({ first, response }: Of<'pair'>) =>
  response === 'tie' ? 0 : response === first ? 1 : -1;
const isLouder = ({ louder, response }: Of<'pair'>) =>
  louder === 'b' ? -SIGN[response] : SIGN[response];

const chosen = ({ chain, chainB, response }: Of<'pair'>) =>
  response === 'tie' ? '' : response === 'a' ? chain : chainB;

/** What a repeat repeats was judged by the same listener in the same part, of the same chains. */
const placeOf = ({ listener, part, sitting }: Observation, ...chains: string[]) =>
  JSON.stringify([listener, part, sitting, ...chains]);

function repeats(pairs: readonly Of<'pair'>[]): Controls['repeats'] {
  const judged = pairs.filter(({ role }) => role === 'judged');
  const asked = new Map<string, Of<'pair'>>();
  for (const one of judged) {
    const place = placeOf(one, one.chain, one.chainB);
    if (!asked.has(place)) asked.set(place, one);
  }
  const alike = pairs.flatMap((one) => {
    if (one.role !== 'repeat') return [];
    const earlier = asked.get(placeOf(one, one.chainB, one.chain));
    return earlier ? [chosen(one) === chosen(earlier)] : [];
  });
  if (alike.length === 0) return null;
  // Of who chooses by place alone: the same recording stands first once and second once.
  const share = (side: number) =>
    judged.filter((one) => isFirst(one) === side).length / judged.length;
  const [first, second, level] = [1, -1, 0].map(share) as [number, number, number];
  return {
    n: alike.length,
    alike: alike.filter(Boolean).length,
    byChance: 2 * first * second + level * level,
  };
}

function places(ratings: readonly Of<'rating'>[]): Controls['places'] {
  const placed = new Map<string, Of<'rating'>[]>();
  for (const one of ratings) {
    if (one.role !== 'judged') continue;
    const place = placeOf(one, one.chain);
    placed.set(place, [...(placed.get(place) ?? []), one]);
  }
  const gaps = ratings.flatMap((one) => {
    if (one.role !== 'repeat') return [];
    const before = placed.get(placeOf(one, one.chain)) ?? [];
    // On a line the same slip lay there twice; else it was placed before.
    const earlier = before.find(({ trial }) => trial === one.trial) ?? before[0];
    return earlier ? [Math.abs(one.value - earlier.value)] : [];
  });
  if (gaps.length === 0) return null;
  // Of two places of one recording: half the mean square of their distance is the variance of one.
  const scatter = Math.sqrt(meanOf(gaps.map((gap) => gap * gap)) / 2);
  return { n: gaps.length, apart: meanOf(gaps), scatter };
}

export function analyzeControls(observations: readonly Observation[]): Controls {
  const pairs = observations.filter((one): one is Of<'pair'> => one.kind === 'pair');
  const ratings = observations.filter((one): one is Of<'rating'> => one.kind === 'rating');
  const hidden = ofOneScale(ratings.filter(({ role }) => role === 'self'));
  return {
    self: sides(
      pairs.filter(({ role }) => role === 'self'),
      isFirst,
    ),
    levelCatch: sides(
      pairs.filter(({ role }) => role === 'louder'),
      isLouder,
    ),
    repeats: repeats(pairs),
    places: places(ratings),
    hidden:
      hidden.length === 0
        ? null
        : {
            n: hidden.length,
            mean: meanOf(hidden.map(({ value }) => value)),
            scale: hidden[0]!.scale,
          },
  };
}

function overListeners({ listenersOne, listenersOther, p }: Sides, one: string, other: string) {
  return p === null
    ? ''
    : ` Of the listeners, ${listenersOne} leaned to the ${one} and ${listenersOther} to the ${other} (exact sign test, ${pText(p)}).`;
}

/** What the controls show, in sentences; empty without controls. */
export function controlSentences({
  self,
  levelCatch,
  repeats,
  places,
  hidden,
}: Controls): string[] {
  const said: string[] = [];
  if (self) {
    said.push(
      `A recording against itself, ${self.n} times: the first was chosen ${self.one} times, the second ${self.other}, neither ${self.neither}.${overListeners(self, 'first', 'second')}`,
    );
  }
  if (levelCatch) {
    said.push(
      `The same recording 1 dB louder, ${levelCatch.n} times: the louder was chosen ${levelCatch.one} times, the softer ${levelCatch.other}, neither ${levelCatch.neither}.${overListeners(levelCatch, 'louder', 'softer')} Many choices of the louder mean that loudness is followed.`,
    );
  }
  if (repeats) {
    const guessed = (repeats.n * repeats.byChance).toFixed(1);
    said.push(
      `Pairs asked twice: ${repeats.alike} of ${repeats.n} were answered alike the other way round; who chooses by place alone, as often as here, would give about ${guessed}.`,
    );
  }
  if (hidden) {
    said.push(
      hidden.scale === ''
        ? `The reference against itself was placed at ${hidden.mean.toFixed(0)} on average (50 is “as good as it”, ${hidden.n} times).`
        : `The reference itself, hidden among the others, was placed at ${hidden.mean.toFixed(0)} of 100 on average (${hidden.n} times).`,
    );
  }
  if (places) {
    said.push(
      `Recordings placed twice lay ${places.apart.toFixed(0)} of 100 points apart on average (${places.n} times): one listener’s repeats scatter by ${places.scatter.toFixed(0)} points.`,
    );
  }
  return said;
}
