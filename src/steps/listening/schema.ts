import { z } from 'zod';
import { TASK_IDS } from '@/core/tasks';

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
});
export type Joining = z.infer<typeof joining>;

/** What a listener has done besides answering. */
export const stageDone = z.union([
  z.object({ stage: z.enum(['level', 'practice', 'level-changed']) }),
  z.object({ stage: z.literal('part'), part: z.int().min(1).max(12) }),
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

export const answering = z.object({
  position: z.int().min(1).max(1000),
  answer: givenAnswer,
  key: z.uuid(),
  /** Of each clip, in the order of the slots. */
  heardS: z.array(seconds).min(1).max(9),
  switches: z.int().min(0).max(100_000),
  durationS: seconds,
});
export type Answering = z.infer<typeof answering>;

const clip = z.strictObject({ word: z.string(), address: z.string() });

/** Everything a listener's browser is told. Strict: a field that is not named here cannot be sent. */
export const listenerView = z.strictObject({
  phase: z.enum([
    'join',
    // The seat of this link was opened elsewhere; this device asks for it.
    'device',
    'level',
    'practice',
    'part',
    'trial',
    // In a room: for the first trial, or for the next one.
    'waiting',
    'finished',
    'closed',
    'full',
  ]),
  room: z.enum(['own', 'together']),
  /** In a room: whether all of the trial was played. */
  roomHeard: z.boolean(),
  /** The trial to answer now. */
  position: z.int(),
  title: z.string(),
  /** The recordings are synthesised; said of the sitting as a whole. */
  simulated: z.boolean(),
  /** Nothing is kept. */
  rehearsal: z.boolean(),
  seal: z.string(),
  alias: z.string().nullable(),
  /** Whom a personal link is for, before they joined. */
  invitedAs: z.string().nullable(),
  resetSound: z.enum(['none', 'noise', 'silence']),
  /** Of the whole sitting. */
  trials: z.int(),
  answered: z.int(),
  /** On how many devices this seat was opened. */
  devices: z.int(),
  /** What a listener may keep once all is answered. */
  receipt: z
    .strictObject({
      seat: z.int(),
      answers: z.int(),
      lastAt: z.string().nullable(),
      /** Of the canonical JSON of all answers given. */
      answersSha256: z.string(),
    })
    .nullable(),
  /** Whether the sitting is closed, and its key can be fetched from here. */
  keyOpen: z.boolean(),
  minutesLeft: z.number(),
  /** What is asked now; the first part until the sitting has begun. */
  part: z.strictObject({
    number: z.int(),
    of: z.int(),
    task: z.enum(TASK_IDS),
    /** Of the task, and what its trials show. */
    name: z.string(),
    shows: z.string(),
    prompt: z.string(),
    tiesAllowed: z.boolean(),
    words: z.array(z.string()),
    trials: z.int(),
    answered: z.int(),
    clipSeconds: z.number(),
    /** Two recordings are learned now; nothing is judged. */
    learning: z.boolean(),
    /** Words of the two that were learned. */
    learned: z.array(z.string()),
  }),
  leastHeardS: z.number(),
  clips: z.array(clip),
  /** To load while the present trial is heard. */
  comingAddresses: z.array(z.string()),
});
export type ListenerView = z.infer<typeof listenerView>;

export const shortCode = z.object({
  code: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^[A-Z2-9]{6}$/, 'A code has six letters or digits.'),
});

/** What a conductor does: begins or goes on from a trial, or says that all of one was played. */
export const conducting = z.object({
  what: z.enum(['next', 'heard']),
  from: z.int().min(0).max(1000),
});
export type Conducting = z.infer<typeof conducting>;

/** What whoever runs a room is told: no more of the chains than the listeners. */
export const conductorView = z.strictObject({
  state: z.enum(['open', 'closed']),
  title: z.string(),
  simulated: z.boolean(),
  seal: z.string(),
  resetSound: z.enum(['none', 'noise', 'silence']),
  /** Of the listeners' link. */
  token: z.string(),
  code: z.string(),
  trials: z.int(),
  position: z.int(),
  heard: z.boolean(),
  minutesLeft: z.number(),
  part: listenerView.shape.part,
  leastHeardS: z.number(),
  clips: z.array(clip),
  comingAddresses: z.array(z.string()),
  joined: z.int(),
  /** How many have answered the present trial. */
  answered: z.int(),
});
export type ConductorView = z.infer<typeof conductorView>;
