import type { CostForms } from '@/core/chain/cost-forms';

/** What is known of a chain without anybody's ears or opinion. */
export interface ChainFacts {
  /** All that it holds, and of that what is not owned, lent or rented yet; hundredths of money. */
  allCents: number | null;
  toBuyCents: number | null;
  /** The same in the other forms in which it can be had; null for a chain that is written in words only. */
  forms: CostForms | null;
  /** Items whose price is not known: sums are at least what they say. */
  unpriced: readonly string[];
  /** A-weighted noise when all chains are brought to one loudness, as if at 1 m from the source, dBA. */
  noiseDba: number | null;
  /** Gain towards the usual level at the converter, and what is missing of it, dB; null without a ladder. */
  gainNeededDb: number | null;
  gainMostDb: number | null;
  shortDb: number | null;
  /** Whether anything in it has a pad; null where no item is named. */
  hasPad: boolean | null;
  /** What of it runs on phantom power; null where no item is named. */
  onPhantom: readonly string[] | null;
}
