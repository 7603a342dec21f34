import { z } from 'zod';
import { TASK_IDS } from '@/core/tasks';
import { PURPOSES, REVEALS } from '@/steps/sitting/schema';
import { ROOM_STAGES } from './schema';

const clip = z.strictObject({
  /** The name itself where names are shown. */
  word: z.string(),
  address: z.string(),
  /** What it costs, where names are shown. */
  note: z.string().optional(),
});

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
  /** In a room: what comes before its first trial, and whether all of the present one was played. */
  roomStage: z.enum(ROOM_STAGES),
  roomHeard: z.boolean(),
  /** The trial to answer now. */
  position: z.int(),
  title: z.string(),
  /** The recordings are synthesised; said of the sitting as a whole. */
  simulated: z.boolean(),
  /** Nothing is kept. */
  purpose: z.enum(PURPOSES),
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
  /** While they join: names of the chains to guess among, in the order of the alphabet; null where no guess is asked. */
  guessAmong: z.array(z.string()).nullable(),
  /** When listeners are told the names. */
  reveal: z.enum(REVEALS),
  /** Of how many parts, from the first, this listener may read own answers with the names. */
  partsTold: z.int(),
  /** How many of the listener's own pairs come again at the end with names and prices. */
  sighted: z.int(),
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
    /** Whether that is the usual question of the task, which is known in every language. */
    usual: z.boolean(),
    tiesAllowed: z.boolean(),
    words: z.array(z.string()),
    trials: z.int(),
    answered: z.int(),
    clipSeconds: z.number(),
    /** Two recordings are learned now; nothing is judged. */
    learning: z.boolean(),
    /** Own pairs come again, with names and prices in view. */
    sighted: z.boolean(),
    /** Words of the two that were learned. */
    learned: z.array(z.string()),
  }),
  leastHeardS: z.number(),
  clips: z.array(clip),
  /** To load while the present trial is heard. */
  comingAddresses: z.array(z.string()),
});
export type ListenerView = z.infer<typeof listenerView>;

/** One thing that was said, with the names. */
const saidLine = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('tie'), a: z.string(), b: z.string() }),
  /** The first rather than the second. */
  z.strictObject({ kind: z.literal('rather'), a: z.string(), b: z.string() }),
  z.strictObject({ kind: z.literal('place'), a: z.string(), value: z.number() }),
  z.strictObject({ kind: z.literal('ticks'), a: z.string(), words: z.array(z.string()) }),
  z.strictObject({ kind: z.literal('told'), a: z.string(), b: z.string(), right: z.boolean() }),
]);
export type SaidLine = z.infer<typeof saidLine>;

/** What a listener answered, with the names, once the sitting is closed. */
export const ownAnswers = z.strictObject({
  parts: z.array(
    z.strictObject({
      prompt: z.string(),
      heard: z.string(),
      /** What was said, a line each. */
      said: z.array(saidLine),
      /** Right answers, and those of the panel where there is one: mean, fewest and most; null where none is right. */
      right: z
        .strictObject({
          own: z.int(),
          of: z.int(),
          panel: z.strictObject({ mean: z.number(), from: z.int(), to: z.int() }).nullable(),
        })
        .nullable(),
    }),
  ),
  /** What a test of one's own ears came to; empty for sittings of a panel. */
  findings: z.array(z.string()),
  /** Spearman's correlation with what the others liked; null where it cannot be told. */
  agreement: z.number().nullable(),
  /** Circles of three among one's own pairs; null where none were asked. */
  circles: z.strictObject({ times: z.int(), of: z.int() }).nullable(),
  /** What they had expected, and how that came out; empty where they were not asked. */
  expected: z.array(
    z.strictObject({
      about: z.enum(['winner', 'distinguishable']),
      said: z.string(),
      outcome: z.enum(['right', 'wrong', 'open']),
    }),
  ),
});
export type OwnAnswers = z.infer<typeof ownAnswers>;

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
  stage: z.enum(ROOM_STAGES),
  heard: z.boolean(),
  minutesLeft: z.number(),
  part: listenerView.shape.part,
  leastHeardS: z.number(),
  clips: z.array(clip),
  comingAddresses: z.array(z.string()),
  joined: z.int(),
  /** How many have answered the present trial, or practised. */
  answered: z.int(),
  /** Whether this trial ends a part, and phones then show each their own answers with the names. */
  tellsNames: z.boolean(),
});
export type ConductorView = z.infer<typeof conductorView>;
