import type { GearKind } from './kinds';
import type { CurvePoint, GearSpecs, ItemSettings } from './specs';

/** An item of the gear list as far as chains are concerned. */
export interface GearItem {
  id: string;
  name: string;
  kind: GearKind;
  specs: GearSpecs;
  priceCents: number | null;
  /** Owned, on loan or rented: nothing that would be bought. */
  here?: boolean;
  accessoryIds: string[];
  impedanceCurve?: readonly CurvePoint[];
}

export interface ChainItem {
  gear: GearItem;
  settings: ItemSettings;
}
