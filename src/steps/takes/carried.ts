import type { CarriedTable } from '@/platform/carried';
import { storedFacts, storedReferenceAlignment } from './facts';
import { otherWriting } from './log-entry';

/** What could be read; the rest, and what lies in the bin, stays. */
const READ = `comparison_id = $1 AND state = 'ready'`;

export const CARRIED: readonly CarriedTable[] = [
  {
    table: 'take',
    of: READ,
    sounds: ['audio_id'],
    shapes: { facts: storedFacts, relation: storedReferenceAlignment },
  },
  {
    table: 'check_override',
    of: `take_id IN (SELECT id FROM take WHERE ${READ})`,
    accounts: ['account_id'],
  },
  { table: 'run_line', of: 'comparison_id = $1', shapes: { other: otherWriting } },
];
