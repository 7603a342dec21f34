import type { CarriedTable } from '@/platform/carried';
import { CARRIED as CHAINS, HELD } from '@/steps/chains/carried';
import { CARRIED as COMPARISONS } from '@/steps/comparisons/carried';
import { CARRIED as DECISION } from '@/steps/decision/carried';
import { carriedGear } from '@/steps/gear/carried';
import { CARRIED as MATCH } from '@/steps/match/carried';
import { CARRIED as SITTING } from '@/steps/sitting/carried';
import { CARRIED as TAKES } from '@/steps/takes/carried';

/** Every table that goes along, each after what its rows lean on; the comparison's own row goes before all. */
export const CARRIED: readonly CarriedTable[] = [
  ...carriedGear(HELD),
  ...COMPARISONS,
  ...CHAINS,
  ...TAKES,
  ...MATCH,
  ...SITTING,
  ...DECISION,
];
