import { chainCost, setCost } from './cost';
import { costForms } from './cost-forms';
import type { GearItem } from './item';

const item = (id: string, change: Partial<GearItem> = {}): GearItem => ({
  id,
  name: id,
  kind: 'microphone',
  specs: {},
  priceCents: 10_000,
  accessoryIds: [],
  ...change,
});
const formsOf = (...items: GearItem[]) =>
  costForms(
    chainCost(
      items.map(({ id }) => id),
      new Map(items.map((one) => [one.id, one])),
    ).lines,
  );

describe('what a chain costs', () => {
  it('keeps apart what is owned, what is lent and what is to buy', () => {
    const forms = formsOf(
      item('ours', { here: true }),
      item('a friend’s', { here: true, lent: true, priceCents: 30_000 }),
      item('wished', { priceCents: 50_000 }),
    );
    expect(forms).toEqual({
      ownedCents: 10_000,
      lentCents: 30_000,
      toBuyCents: 50_000,
      toBuyMostCents: 50_000,
      allMostCents: 90_000,
      used: null,
      rentDay: null,
    });
  });

  it('goes as high as unsure prices may', () => {
    const unsure = { prices: { upToCents: 14_000 } };
    const forms = formsOf(item('ours', { here: true, ...unsure }), item('wished', unsure));
    expect(forms).toMatchObject({
      toBuyCents: 10_000,
      toBuyMostCents: 14_000,
      allMostCents: 28_000,
    });
  });

  it('is bought used where that is known, and rented where somebody rents it out', () => {
    const forms = formsOf(
      item('ours', { here: true, prices: { usedCents: [1, 2], rentDayCents: 5 } }),
      item('used', { prices: { usedCents: [6_000, 7_500], rentDayCents: 900 } }),
      item('new', { prices: { upToCents: 11_000 } }),
    );
    expect(forms.used).toEqual({ fromCents: 16_000, toCents: 18_500, atList: ['new'] });
    expect(forms.rentDay).toEqual({ cents: 900, without: ['new'] });
  });

  it('counts what has no price as nothing', () => {
    const forms = formsOf(item('dark', { priceCents: null, prices: { usedCents: [500, 900] } }));
    expect(forms).toMatchObject({ toBuyCents: 0, toBuyMostCents: 0 });
    expect(forms.used).toEqual({ fromCents: 500, toCents: 900, atList: [] });
  });

  it('is for a pair twice, and once where chains share it', () => {
    const gear = new Map([['m', item('m', { prices: { usedCents: [4_000, 5_000] } })]]);
    const pair = chainCost(['m'], gear, 'm');
    expect(costForms(pair.lines).used).toEqual({ fromCents: 8_000, toCents: 10_000, atList: [] });
    expect(setCost([chainCost(['m'], gear), chainCost(['m'], gear)]).allCents).toBe(10_000);
  });
});
