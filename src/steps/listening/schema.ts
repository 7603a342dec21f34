import { z } from 'zod';

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

export const stageDone = z.object({ stage: z.enum(['level', 'practice']) });

const seconds = z
  .number()
  .min(0)
  .max(24 * 3600);

export const answering = z.object({
  position: z.int().min(1).max(1000),
  choice: z.enum(['first', 'second', 'tie']),
  key: z.uuid(),
  firstHeardS: seconds,
  secondHeardS: seconds,
  switches: z.int().min(0).max(100_000),
  durationS: seconds,
});
export type Answering = z.infer<typeof answering>;

const clip = z.strictObject({ word: z.string(), address: z.string() });

/** Everything a listener's browser is told. Strict: a field that is not named here cannot be sent. */
export const listenerView = z.strictObject({
  phase: z.enum(['join', 'level', 'practice', 'trial', 'finished', 'closed', 'full']),
  title: z.string(),
  prompt: z.string(),
  tiesAllowed: z.boolean(),
  /** The recordings are synthesised; said of the sitting as a whole. */
  simulated: z.boolean(),
  seal: z.string(),
  alias: z.string().nullable(),
  trials: z.int(),
  answered: z.int(),
  minutesLeft: z.number(),
  clipSeconds: z.number(),
  leastHeardS: z.number(),
  clips: z.array(clip),
  /** To load while the present trial is heard. */
  comingAddresses: z.array(z.string()),
});
export type ListenerView = z.infer<typeof listenerView>;
