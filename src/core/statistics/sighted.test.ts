import type { Observation } from './observation';
import { sightedFinding, sightedShift } from './sighted';

type Said = 'a' | 'b' | 'tie';
const pair = (
  listener: string,
  trial: number,
  [chain, chainB]: [string, string],
  role: Observation['role'],
  response: Said,
): Observation => ({
  listener,
  source: 'voice',
  passage: 'verse',
  context: 'raw',
  sitting: 's',
  part: '1',
  trial: `${trial}`,
  replicate: 1,
  kind: 'pair',
  role,
  chain,
  chainB,
  first: 'a',
  response,
  louder: '',
});

/** One listener's pair, blind and then with names. */
const twice = (
  listener: string,
  trial: number,
  chains: [string, string],
  blind: Said,
  sighted: Said,
): Observation[] => [
  pair(listener, trial, chains, 'judged', blind),
  pair(listener, trial, chains, 'sighted', sighted),
];

const PRICES: Record<string, number | null> = { oak: 900, ash: 300, elm: 300, fir: null };
const priceOf = (chain: string) => PRICES[chain] ?? null;
const ALL = ['oak', 'ash', 'elm', 'fir'];

it('holds each pair against the same one blind, listener by listener', () => {
  const said = [
    // Ann goes to the dearer twice; Bea to and fro; Cyd from a tie to the cheaper.
    ...twice('Ann', 1, ['ash', 'oak'], 'a', 'b'),
    ...twice('Ann', 2, ['oak', 'elm'], 'b', 'a'),
    ...twice('Bea', 1, ['oak', 'ash'], 'a', 'b'),
    ...twice('Bea', 2, ['elm', 'oak'], 'a', 'b'),
    ...twice('Cyd', 1, ['oak', 'ash'], 'tie', 'b'),
    // Of two that cost the same, and of one whose price nobody knows, neither is the dearer.
    ...twice('Cyd', 2, ['ash', 'elm'], 'a', 'a'),
    ...twice('Cyd', 3, ['oak', 'fir'], 'a', 'b'),
    // Blind only, and with names only: nothing to hold against each other.
    pair('Dee', 1, ['oak', 'ash'], 'judged', 'a'),
    pair('Dee', 2, ['oak', 'ash'], 'sighted', 'a'),
  ];
  const shift = sightedShift(said, ALL, priceOf)!;
  expect(shift).toMatchObject({ listeners: 3, pairs: 7, same: 1, towards: 1, away: 1, pValue: 1 });
  // Blind the dearer took 0, 0, 1, 0 and a half of five; with names 1, 1, 0, 1 and 0.
  expect(shift.dearer).toEqual({ pairs: 5, blind: 1.5 / 5, sighted: 3 / 5 });
  expect(shift.chains.map(({ chain, pairs }) => [chain, pairs])).toEqual([
    ['oak', 6],
    ['ash', 4],
    ['elm', 3],
    ['fir', 1],
  ]);
  // Oak: blind 0, 0, 1, 0, 0.5, 1; with names 1, 1, 0, 1, 0, 0.
  expect(shift.chains[0]).toMatchObject({ blind: 2.5 / 6, sighted: 3 / 6 });
});

it('claims a pull only where listeners move one way more often than a coin would', () => {
  const move = (n: number, towards: boolean) =>
    twice(`L${n}`, 1, ['oak', 'ash'], towards ? 'b' : 'a', towards ? 'a' : 'b');
  const panel = (towards: number, away: number) =>
    Array.from({ length: towards + away }, (_, n) => move(n, n < towards)).flat();
  const read = (towards: number, away: number) => sightedShift(panel(towards, away), ALL, priceOf)!;
  // 2 · 0.5^6 = 0.03125; five alike give 0.0625.
  expect(read(6, 0).pValue).toBeCloseTo(0.03125, 12);
  expect(read(5, 0).pValue).toBeCloseTo(0.0625, 12);
  expect(sightedFinding(read(6, 0))).toMatch(/looks and price drew this panel towards the dearer/);
  expect(sightedFinding(read(0, 6))).toMatch(/away from the dearer\.$/);
  expect(sightedFinding(read(5, 0))).toMatch(/chance alone would explain/);
});

it('says so where nothing can be told', () => {
  expect(sightedShift([], ALL, priceOf)).toBeNull();
  const same = sightedShift(twice('Ann', 1, ['ash', 'elm'], 'a', 'b'), ALL, priceOf)!;
  expect(same.dearer).toBeNull();
  expect(sightedFinding(same)).toMatch(/No pair/);
  const still = sightedShift(twice('Ann', 1, ['oak', 'elm'], 'a', 'a'), ALL, priceOf)!;
  expect(still.pValue).toBeNull();
  expect(sightedFinding(still)).toMatch(/no listener moved/);
});
