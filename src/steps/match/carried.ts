import { z } from 'zod';
import type { CarriedTable } from '@/platform/carried';
import { storedRecipe } from './schema';
import { storedDetails, storedSetFacts, storedSpectra } from './stored';

const MADE = `comparison_id = $1 AND state = 'ready'`;
const OF_MADE = `clip_set_id IN (SELECT id FROM clip_set WHERE ${MADE})`;

export const CARRIED: readonly CarriedTable[] = [
  {
    table: 'take_placing',
    of: `take_id IN (SELECT id FROM take WHERE comparison_id = $1 AND state = 'ready')`,
  },
  {
    table: 'clip_set',
    of: MADE,
    soundsWithin: ['recipe'],
    shapes: { facts: storedSetFacts, recipe: storedRecipe },
  },
  {
    table: 'clip',
    of: OF_MADE,
    sounds: ['master_audio_id'],
    shapes: { pictures: storedSpectra, details: storedDetails },
  },
  { table: 'settling_clip', of: OF_MADE, sounds: ['master_audio_id'] },
  {
    table: 'blind_pack',
    // The key of one that is not opened would be open in a file.
    of: `${OF_MADE} AND opened_at IS NOT NULL`,
    shapes: { words: z.record(z.string(), z.string()) },
  },
  { table: 'clip_note', of: OF_MADE, accounts: ['account_id'] },
];
