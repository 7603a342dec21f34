import { z } from 'zod';

/** Tasks that show whether two can be told apart at all. */
export const APART_TASKS = ['triangle', 'duo-trio'] as const;

/** Fewer show nothing, more tire. */
export const TRIALS = { least: 10, most: 25, usual: 12 } as const;

export const selfTestOrder = z.object({
  clipSetId: z.uuid('Choose the clips.'),
  /** Null for all chains of the clips, every two of them. */
  pair: z
    .tuple([z.uuid(), z.uuid()])
    .refine(([a, b]) => a !== b, 'Choose two different chains.')
    .nullable(),
  task: z.enum(APART_TASKS),
  trials: z
    .int('Trials are a whole number.')
    .min(TRIALS.least, `Fewer than ${TRIALS.least} trials show nothing.`)
    .max(TRIALS.most, `More than ${TRIALS.most} trials tire anyone.`),
});
export type SelfTestOrder = z.infer<typeof selfTestOrder>;

/** One test of one's own ears. */
export interface SelfTest {
  id: string;
  at: Date;
  title: string;
  /** To go on with it; null when it is done. */
  token: string | null;
  answered: number;
  trials: number;
  seal: string;
  heardBefore: boolean;
  /** What it came to; empty until it is done. */
  findings: string[];
}

/** Chains over which somebody tested themselves more than once. */
export interface AddedUp {
  tests: number;
  findings: string[];
}

export interface SelfTests {
  /** The newest first. */
  tests: SelfTest[];
  /** All done tests of the same chains together, where there are several. */
  together: AddedUp[];
}
