import type { MustHaveRule } from './rule';

/** What would have to be bought costs no more than that, in whole units of money. */
export const budget = {
  id: 'budget',
  label: 'what is to buy costs at most',
  limit: { unit: '€', least: 0, most: 10_000_000 },
  judge({ toBuyCents, forms, unpriced }, limit, money) {
    if (toBuyCents === null) return { verdict: 'unknown', ground: 'no price is written down' };
    const least = unpriced.length > 0 ? 'at least ' : '';
    const ground = `${least}${money(toBuyCents)} to buy`;
    if (toBuyCents > 100 * limit) return { verdict: 'fail', ground };
    if (unpriced.length === 0 && forms && forms.toBuyMostCents > 100 * limit) {
      return { verdict: 'unknown', ground: `${ground}, up to ${money(forms.toBuyMostCents)}` };
    }
    return unpriced.length > 0
      ? { verdict: 'unknown', ground: `${ground}, no price for ${unpriced.join(', ')}` }
      : { verdict: 'pass', ground };
  },
} as const satisfies MustHaveRule;
