import type { CarriedTable } from '@/platform/carried';
import { chainShape } from './schema';

/** Gear of a comparison's chains. */
export const HELD =
  'SELECT gear_id FROM chain_item JOIN chain ON chain.id = chain_id WHERE comparison_id = $1';

export const CARRIED: readonly CarriedTable[] = [
  { table: 'chain', of: 'comparison_id = $1', shapes: { shape: chainShape } },
  { table: 'chain_item', of: 'chain_id IN (SELECT id FROM chain WHERE comparison_id = $1)' },
  { table: 'reference_change', of: 'comparison_id = $1', leaves: ['id'] },
];
