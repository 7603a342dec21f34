import type { ChainItem } from './item';
import { GEAR_KINDS, gearKind, type GearKind } from './kinds';

/** A chain as far as a fair comparison is concerned. */
export interface PlannedChain {
  id: string;
  name: string;
  items: readonly ChainItem[];
  distanceM: number | null;
  angleDeg: number | null;
  /** One microphone, a pair, a blend, in words; the same words are the same way. */
  capture: string;
  /** Which of its takes, and what that goes through, in words; where nothing is said, as the others. */
  take?: string;
  processing?: string;
}

export interface Difference {
  /** What differs, as a word: microphone, preamp, pattern, distance. */
  what: string;
  a: string;
  b: string;
}

const NONE = 'none';

/**
 * All that differs between two chains: gear by link, settings of shared links, place. Gain does not
 * count where it only brings a chain to level; matching takes it out again.
 */
export function differences(a: PlannedChain, b: PlannedChain): Difference[] {
  const found: Difference[] = [];
  const note = (what: string, x: string, y: string) => {
    if (x !== y) found.push({ what, a: x, b: y });
  };
  for (const kind of GEAR_KINDS) {
    const of = (chain: PlannedChain) => chain.items.filter(({ gear }) => gear.kind === kind);
    const [x, y] = [of(a), of(b)];
    const names = (items: readonly ChainItem[]) =>
      items.map(({ gear }) => gear.name).join(' + ') || NONE;
    note(gearKind(kind).link, names(x), names(y));
    if (names(x) !== names(y)) continue;
    x.forEach((item, i) => {
      const [s, t] = [item.settings, y[i]!.settings];
      const name = item.gear.name;
      const shown = (value: string | number | undefined, unit = '') =>
        value === undefined || value === '' || value === 0 ? 'off' : `${value}${unit}`;
      const standing = item.gear.specs.patterns?.[0] ?? 'as made';
      note(`pattern of ${name}`, s.pattern ?? standing, t.pattern ?? standing);
      note(`pad of ${name}`, shown(s.padDb, ' dB'), shown(t.padDb, ' dB'));
      note(`high-pass of ${name}`, shown(s.highPassHz, ' Hz'), shown(t.highPassHz, ' Hz'));
      note(`switches of ${name}`, shown(s.switches), shown(t.switches));
    });
  }
  note('way of capture', a.capture, b.capture);
  note('take', a.take ?? '', b.take ?? '');
  note('processing', a.processing ?? '', b.processing ?? '');
  const place = (value: number | null, unit: string) => (value === null ? '' : `${value} ${unit}`);
  if (a.distanceM !== null && b.distanceM !== null) {
    note('distance', place(100 * a.distanceM, 'cm'), place(100 * b.distanceM, 'cm'));
  }
  if (a.angleDeg !== null && b.angleDeg !== null) {
    note('angle', place(a.angleDeg, '°'), place(b.angleDeg, '°'));
  }
  return found;
}

export interface UnfairPair {
  a: string;
  b: string;
  differences: Difference[];
  text: string;
}

const NUMBER_WORDS = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six'];

function listed(words: readonly string[]): string {
  return words.length < 2
    ? (words[0] ?? '')
    : `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]}`;
}

export interface Fairness {
  /** Pairs that differ in exactly one thing. */
  fairPairs: { a: string; b: string; what: string }[];
  unfair: UnfairPair[];
  /** Pairs without any difference. */
  same: { a: string; b: string }[];
  /** Chains that are missing for a full grid of microphones and preamps. */
  missing: { microphone: string; preamp: string }[];
}

/**
 * Which pairs of a set can show what one link does, and which cannot because more than one thing
 * changes; and the grid that would separate them.
 */
export function fairness(chains: readonly PlannedChain[]): Fairness {
  const result: Fairness = { fairPairs: [], unfair: [], same: [], missing: [] };
  chains.forEach((a, i) => {
    for (const b of chains.slice(i + 1)) {
      const found = differences(a, b);
      if (found.length === 0) result.same.push({ a: a.name, b: b.name });
      else if (found.length === 1) {
        result.fairPairs.push({ a: a.name, b: b.name, what: found[0]!.what });
      } else {
        const count = NUMBER_WORDS[found.length] ?? String(found.length);
        const text = `${count} things change between ${a.name} and ${b.name}: ${listed(found.map(({ what }) => what))}.`;
        result.unfair.push({ a: a.name, b: b.name, differences: found, text });
      }
    }
  });
  const link = (chain: PlannedChain, kind: GearKind) =>
    chain.items.find(({ gear }) => gear.kind === kind)?.gear.name;
  const have = new Set(chains.map((c) => `${link(c, 'microphone')}\n${link(c, 'preamp')}`));
  const unique = (kind: GearKind) => [
    ...new Set(chains.map((c) => link(c, kind)).filter((name) => name !== undefined)),
  ];
  for (const microphone of unique('microphone')) {
    for (const preamp of unique('preamp')) {
      if (!have.has(`${microphone}\n${preamp}`)) result.missing.push({ microphone, preamp });
    }
  }
  return result;
}
