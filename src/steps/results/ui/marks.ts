import { CHAIN_COLOURS } from '@/ui/tokens';

export interface ChainMark {
  colour: string;
  symbol: string;
}

// Outlines of further marks, in the chart's path notation.
const HEXAGON = 'path://M5 0 L10 2.5 L10 7.5 L5 10 L0 7.5 L0 2.5 Z';
const CROSS = 'path://M3 0 H7 V3 H10 V7 H7 V10 H3 V7 H0 V3 H3 Z';
const STAR = 'path://M5 0 L6.5 3.5 L10 5 L6.5 6.5 L5 10 L3.5 6.5 L0 5 L3.5 3.5 Z';
const NARROW = 'path://M3 0 H7 V10 H3 Z';
const SYMBOLS = ['circle', 'rect', 'triangle', 'diamond', HEXAGON, CROSS, STAR, NARROW];

/** Colour and shape of each chain of a sitting, the same in every picture. */
export function marksOf(chains: readonly string[]): (chain: string) => ChainMark {
  return (chain) => {
    const i = Math.max(0, chains.indexOf(chain));
    return {
      colour: CHAIN_COLOURS[i % CHAIN_COLOURS.length]!,
      symbol: SYMBOLS[i % SYMBOLS.length]!,
    };
  };
}
