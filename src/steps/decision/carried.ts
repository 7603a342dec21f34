import type { CarriedTable } from '@/platform/carried';
import { HELD } from '@/steps/chains/carried';
import { weighing } from './schema';

export const CARRIED: readonly CarriedTable[] = [
  {
    table: 'mark',
    of: `chain_id IN (SELECT id FROM chain WHERE comparison_id = $1) OR gear_id IN (${HELD})`,
    gear: 'gear_id',
    accounts: ['account_id'],
  },
  {
    table: 'weighing',
    of: 'comparison_id = $1',
    accounts: ['account_id'],
    shapes: { content: weighing },
  },
  { table: 'decision', of: 'comparison_id = $1', accounts: ['account_id'] },
];
