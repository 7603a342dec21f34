import type { GearKind } from './kinds';
import type { CurvePoint, GearSpecs, ItemSettings } from './specs';

/** An item of the gear list as far as chains are concerned. */
/** What an item costs besides its price; hundredths of money. */
export interface FurtherPrices {
  /** As high as the price may be, where it is unsure. */
  upToCents?: number;
  usedCents?: readonly [from: number, to: number];
  rentDayCents?: number;
}

export interface GearItem {
  id: string;
  name: string;
  kind: GearKind;
  specs: GearSpecs;
  priceCents: number | null;
  /** Owned, on loan or rented: nothing that would be bought. */
  here?: boolean;
  /** Here, but somebody else's. */
  lent?: boolean;
  prices?: FurtherPrices;
  accessoryIds: string[];
  impedanceCurve?: readonly CurvePoint[];
}

export interface ChainItem {
  gear: GearItem;
  settings: ItemSettings;
}
