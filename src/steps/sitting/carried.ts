import { z } from 'zod';
import { setAsideRule } from '@/core/design/set-aside-rule';
import type { CarriedTable } from '@/platform/carried';
import { sittingToken } from './token';

/** Nobody can be in one that is open somewhere else, and a rehearsal ends with whoever tried it. */
const HELD = `comparison_id = $1 AND state <> 'open' AND purpose <> 'rehearsal'`;
const OF_HELD = `sitting_id IN (SELECT id FROM sitting WHERE ${HELD})`;
const answer = z.record(z.string(), z.json());

export const CARRIED: readonly CarriedTable[] = [
  {
    table: 'sitting',
    of: HELD,
    // What its answers say is worked out anew.
    leaves: ['analysis', 'standings', 'code'],
    anew: { token: sittingToken },
    accounts: ['tester_id'],
    shapes: { set_aside: setAsideRule },
  },
  { table: 'part', of: OF_HELD },
  { table: 'trial', of: OF_HELD },
  { table: 'trial_clip', of: OF_HELD },
  // Who of the panel it was stays with the panel.
  { table: 'listener', of: OF_HELD, leaves: ['panelist_id'] },
  { table: 'answer', of: OF_HELD, shapes: { answer } },
  { table: 'sighted_answer', of: OF_HELD, shapes: { answer } },
  { table: 'part_told', of: OF_HELD },
  { table: 'named_listening', of: OF_HELD },
];
