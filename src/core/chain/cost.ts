import type { FurtherPrices, GearItem } from './item';

export interface CostLine {
  gearId: string;
  name: string;
  priceCents: number | null;
  /** Accessory of which item; null for an item of the chain itself. */
  accessoryOf: string | null;
  /** Owned, on loan or rented. */
  here: boolean;
  /** On loan or rented. */
  lent: boolean;
  prices: FurtherPrices;
}

export interface ChainCost {
  lines: CostLine[];
  totalCents: number;
  /** Names without a price: the total is at least what it says. */
  unpriced: string[];
}

/** A gear list in which an item is its own accessory, directly or through others. */
export class CircularAccessoryError extends Error {
  override name = 'CircularAccessoryError';
}

/**
 * What a chain costs: its items and all their accessories, each item once however often it is named.
 * @param twice the item of which a stereo pair needs a second one
 * @throws CircularAccessoryError
 */
export function chainCost(
  itemIds: readonly string[],
  gear: ReadonlyMap<string, GearItem>,
  twice: string | null = null,
): ChainCost {
  const lines = new Map<string, CostLine>();
  const open: string[] = [];
  const add = (id: string, accessoryOf: string | null) => {
    const item = gear.get(id);
    if (!item) return;
    if (open.includes(id)) {
      const names = [...open.slice(open.indexOf(id)), id].map((x) => gear.get(x)?.name ?? x);
      throw new CircularAccessoryError(
        `${names.join(' needs ')}: an item cannot be an accessory of itself`,
      );
    }
    if (lines.has(id)) return;
    const { name, priceCents, here = false, lent = false, prices = {} } = item;
    lines.set(id, { gearId: id, name, priceCents, accessoryOf, here, lent, prices });
    open.push(id);
    for (const accessory of item.accessoryIds) add(accessory, item.name);
    open.pop();
  };
  for (const id of itemIds) add(id, null);
  const first = twice === null ? undefined : lines.get(twice);
  if (first) {
    const gearId = `${first.gearId} second`;
    lines.set(gearId, { ...first, gearId, name: `second ${first.name}` });
  }
  const all = [...lines.values()];
  return {
    lines: all,
    totalCents: all.reduce((sum, { priceCents }) => sum + (priceCents ?? 0), 0),
    unpriced: all.filter(({ priceCents }) => priceCents === null).map(({ name }) => name),
  };
}

/** What a set of chains is worth, in hundredths of money: all, and of that what would have to be bought. */
export interface SetCost {
  allCents: number;
  toBuyCents: number;
}

/**
 * What a whole set of chains costs when what they share is bought once.
 * @param typedCents prices of chains that are written in words only
 */
export function setCost(costs: readonly ChainCost[], typedCents: readonly number[] = []): SetCost {
  const once = new Map(costs.flatMap(({ lines }) => lines.map((line) => [line.gearId, line])));
  const sum = (lines: readonly CostLine[]) =>
    lines.reduce((total, { priceCents }) => total + (priceCents ?? 0), 0);
  const typed = typedCents.reduce((total, cents) => total + cents, 0);
  const all = [...once.values()];
  return {
    allCents: typed + sum(all),
    toBuyCents: typed + sum(all.filter(({ here }) => !here)),
  };
}

/** Upper edges of the brackets in whole units of money; the last has none. */
export const BRACKETS = [250, 500, 1000, 2000, 4000, 8000] as const;

/** "1000 to 2000", "under 250", "8000 and more". */
export function bracketOf(totalCents: number): string {
  const units = totalCents / 100;
  const above = BRACKETS.findIndex((edge) => units < edge);
  if (above === 0) return `under ${BRACKETS[0]}`;
  if (above === -1) return `${BRACKETS[BRACKETS.length - 1]} and more`;
  return `${BRACKETS[above - 1]} to ${BRACKETS[above]}`;
}

/** Chains cost the same when their totals differ by no more than this share of the dearer one. */
export const EQUAL_COST = 0.1;

/** Pairs (by index) whose totals differ by no more than a share of the dearer one; closest first. */
export function equalCostPairs(
  totalsCents: readonly number[],
  tolerance: number,
): { a: number; b: number; differenceCents: number }[] {
  return totalsCents
    .flatMap((x, a) =>
      totalsCents
        .slice(a + 1)
        .map((y, i) => ({ a, b: a + 1 + i, differenceCents: Math.abs(x - y) })),
    )
    .filter(
      ({ a, b, differenceCents }) =>
        differenceCents <= tolerance * Math.max(totalsCents[a]!, totalsCents[b]!),
    )
    .sort((x, y) => x.differenceCents - y.differenceCents);
}
