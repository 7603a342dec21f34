import type { GearKind } from '@/core/chain/kinds';
import { overPanels, type Panels, type Redrawn } from './redrawn';

/** A chain by what it is made of, with its whole price in hundredths of money. */
export interface PricedLinks {
  chain: string;
  priceCents: number;
  items: readonly { id: string; kind: GearKind }[];
}

/** What one hundred more bought at one link, over chains that differ there alone. */
export interface LinkWorth {
  link: GearKind;
  /** Pairs of chains that differ in nothing else. */
  pairs: number;
  /** Least and greatest difference in price among them, hundredths of money. */
  apartCents: [number, number];
  /** Log odds or points of the line for each hundred. */
  perHundred: Redrawn;
}

/** The kind in which two chains differ, where that is one item of each. */
function differsIn(x: PricedLinks, y: PricedLinks): GearKind | null {
  const only = (of: PricedLinks, not: PricedLinks) => {
    const rest = not.items.map(({ id }) => id);
    return of.items.filter(({ id }) => {
      const at = rest.indexOf(id);
      if (at >= 0) rest.splice(at, 1);
      return at < 0;
    });
  };
  const [own, others] = [only(x, y), only(y, x)];
  const [one, other] = [own[0], others[0]];
  if (own.length !== 1 || others.length !== 1 || !one || !other) return null;
  return one.kind === other.kind ? one.kind : null;
}

/**
 * By link of the chain, what one more hundred of money bought in liking: the slope of differences in strength on
 * differences in price, by least squares through nought, over all pairs of chains that differ in that link alone.
 * Prices are whole ones, so that what an item needs beside it is paid with it.
 * @param chains those of which all is known: items, and a price for each
 */
export function linkWorth(panels: Panels, chains: readonly PricedLinks[]): LinkWorth[] {
  const heard = chains.filter(({ chain }) => panels.chains.includes(chain));
  const found = new Map<GearKind, { x: number; y: number; cents: number }[]>();
  heard.forEach((one, x) =>
    heard.slice(x + 1).forEach((other, i) => {
      const kind = differsIn(one, other);
      const cents = other.priceCents - one.priceCents;
      if (kind === null || cents === 0) return;
      found.set(kind, [...(found.get(kind) ?? []), { x, y: x + 1 + i, cents }]);
    }),
  );
  const names = heard.map(({ chain }) => chain);
  return [...found].flatMap(([link, pairs]) => {
    const square = pairs.reduce((sum, { cents }) => sum + (cents / 10_000) ** 2, 0);
    const perHundred = overPanels(panels, names, (strengths) =>
      pairs.reduce(
        (sum, { x, y, cents }) =>
          sum + ((cents / 10_000) * (strengths[y]! - strengths[x]!)) / square,
        0,
      ),
    );
    const apart = pairs.map(({ cents }) => Math.abs(cents));
    const apartCents: [number, number] = [Math.min(...apart), Math.max(...apart)];
    return perHundred ? [{ link, pairs: pairs.length, apartCents, perHundred }] : [];
  });
}
