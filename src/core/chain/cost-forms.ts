import type { CostLine } from './cost';

/** What a chain costs, in each form in which it can be had; hundredths of money. */
export interface CostForms {
  /** Of all its items: those that are owned, and those on loan or rented. */
  ownedCents: number;
  lentCents: number;
  /** What is not here yet, at the price of the list, and as high as that may be. */
  toBuyCents: number;
  toBuyMostCents: number;
  /** All of it, as high as prices may be. */
  allMostCents: number;
  /** What is not here yet, used where that is known, else at the price of the list; null where nothing is known used. */
  used: { fromCents: number; toCents: number; atList: string[] } | null;
  /** What is not here yet, for a day, and what of it nobody rents out; null where nothing can be rented. */
  rentDay: { cents: number; without: string[] } | null;
}

const sum = (lines: readonly CostLine[], of: (line: CostLine) => number | null | undefined) =>
  lines.reduce((total, line) => total + (of(line) ?? 0), 0);

/**
 * List, to buy now, used or rented. Items without a price count as nothing, as in the sum of the chain.
 * @param lines of `chainCost`: each item once, with its accessories
 */
export function costForms(lines: readonly CostLine[]): CostForms {
  const missing = lines.filter(({ here }) => !here);
  const most = ({ priceCents, prices }: CostLine) =>
    priceCents === null ? null : (prices.upToCents ?? priceCents);
  const known = missing.some(({ prices }) => prices.usedCents);
  const rented = missing.some(({ prices }) => prices.rentDayCents !== undefined);
  const names = (of: (line: CostLine) => boolean) => missing.filter(of).map(({ name }) => name);
  return {
    ownedCents: sum(lines, ({ here, lent, priceCents }) => (here && !lent ? priceCents : 0)),
    lentCents: sum(lines, ({ here, lent, priceCents }) => (here && lent ? priceCents : 0)),
    toBuyCents: sum(missing, ({ priceCents }) => priceCents),
    toBuyMostCents: sum(missing, most),
    allMostCents: sum(lines, most),
    used: known
      ? {
          fromCents: sum(missing, ({ prices, priceCents }) => prices.usedCents?.[0] ?? priceCents),
          toCents: sum(missing, (line) => line.prices.usedCents?.[1] ?? most(line)),
          atList: names(({ prices }) => !prices.usedCents),
        }
      : null,
    rentDay: rented
      ? {
          cents: sum(missing, ({ prices }) => prices.rentDayCents),
          without: names(({ prices }) => prices.rentDayCents === undefined),
        }
      : null,
  };
}
