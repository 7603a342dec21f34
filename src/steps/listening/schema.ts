import { z } from 'zod';
import { TOLD_APART } from '@/core/design/told-apart';

/** The link's secret, as it stands in the address. */
export const linkToken = z.string().regex(/^[A-Za-z0-9_-]{10,40}$/);
export const clipAddress = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/);

export const joining = z.object({
  alias: z
    .string()
    .trim()
    .min(1, 'Choose a name; any word will do.')
    .max(40, 'Keep the name under 40 characters.'),
  playback: z.enum(['headphones', 'loudspeakers', 'earbuds']),
  consent: z.literal(true, 'Listening needs your consent.'),
  /** Where the sitting asks for one: the place of a chain in the list that was shown, or none, and a word. */
  guess: z
    .object({
      favourite: z.int().min(0).max(999).nullable(),
      toldApart: z.enum(TOLD_APART).nullable(),
    })
    .nullable()
    .optional(),
});
export type Joining = z.infer<typeof joining>;

/** What a listener has done besides answering. */
export const stageDone = z.union([
  z.object({ stage: z.enum(['level', 'practice', 'level-changed']) }),
  z.object({
    stage: z.literal('part') /** One more than there are for what is heard with names. */,
    part: z.int().min(1).max(13),
  }),
]);
export type StageDone = z.infer<typeof stageDone>;

const seconds = z
  .number()
  .min(0)
  .max(24 * 3600);

/** An answer of any task; which of them fits is decided by the trial. */
export const givenAnswer = z.union([
  z.strictObject({ choice: z.enum(['first', 'second', 'tie']) }),
  z.strictObject({ places: z.array(z.int().min(0).max(100)).min(1).max(9) }),
  z.strictObject({ slot: z.int().min(0).max(8) }),
  z.strictObject({ words: z.array(z.string().max(30)).max(60) }),
  z.strictObject({ learned: z.literal(true) }),
]);

export const MOST_REMARK = 200;

export const answering = z.object({
  position: z.int().min(1).max(1000),
  answer: givenAnswer,
  key: z.uuid(),
  /** Of each clip, in the order of the slots. */
  heardS: z.array(seconds).min(1).max(9),
  switches: z.int().min(0).max(100_000),
  durationS: seconds,
  /** One line in the listener's own words; nobody reads it before the sitting is closed. */
  remark: z
    .string()
    .trim()
    .max(MOST_REMARK, `Keep the remark under ${MOST_REMARK} characters.`)
    .optional(),
});
export type Answering = z.infer<typeof answering>;

export const shortCode = z.object({
  code: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^[A-Z2-9]{6}$/, 'A code has six letters or digits.'),
});

/** What comes before the first trial of a room. */
export const ROOM_STAGES = ['joining', 'level', 'practice'] as const;

/**
 * What a conductor does: sets the level or lets practise before the first trial, begins or goes on from a trial, or says
 * that all of one was played, and for how long each clip.
 */
export const conducting = z.object({
  what: z.enum(['level', 'practice', 'next', 'heard']),
  from: z.int().min(0).max(1000),
  heardS: z.array(seconds).max(9).optional(),
});
export type Conducting = z.infer<typeof conducting>;
