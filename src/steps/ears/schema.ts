import { z } from 'zod';
import { listQueryOf } from '@/platform/list-query';
import { MADE_SOUNDS, type MadeSound } from '@/core/ears/made-sounds';
import type { Said } from '@/core/ears/outcome';

const MADE = Object.keys(MADE_SOUNDS) as [MadeSound, ...MadeSound[]];
const id = z.uuid('This address is not complete.');

/** What a session is made on: a made-up sound, one of the studio's clips, or one that the panel was given. */
export const earSound = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('made'), sound: z.enum(MADE) }),
  z.object({
    kind: z.literal('clip'),
    comparisonId: id,
    clipSetId: id,
    chainId: id,
    /** The other of two learned chains. */
    otherId: id.nullable(),
  }),
  z.object({
    kind: z.literal('given'),
    soundId: id,
    /** Whether it is heard on its way to the other chain that was given with it. */
    pair: z.boolean().default(false),
  }),
]);
export type EarSound = z.infer<typeof earSound>;

export const sessionDraft = z.object({
  skill: z.string().max(40),
  choices: z.record(z.string().max(40), z.string().max(40)),
  /** The one size of a test. */
  amount: z.number().nullable(),
  sound: earSound,
});
export type SessionDraft = z.infer<typeof sessionDraft>;

export const earAnswer = z.object({
  sessionId: id,
  position: z.int().min(0).max(199),
  chosen: z.int().min(0).max(2),
  seconds: z.number().min(0).max(86_400),
});
export type EarAnswer = z.infer<typeof earAnswer>;

export const ended = z.object({ sessionId: id });
export const sharing = z.object({ shares: z.boolean() });
export const testDraft = sessionDraft.omit({ sound: true }).extend({ amount: z.number() });
export type TestDraft = z.infer<typeof testDraft>;
export const soundDraft = z.object({
  comparisonId: id,
  clipSetId: id,
  chainId: id,
  /** The other of two chains that are to be learned. */
  otherId: id.nullable().default(null),
  title: z
    .string()
    .trim()
    .min(1, 'Give the sound a title that names no chain.')
    .max(60, 'Keep the title under 60 characters.'),
});
export type SoundDraft = z.infer<typeof soundDraft>;

/** A session that goes on: everything that its trials are made of. */
export const openSession = z.object({
  id: z.string(),
  skill: z.string(),
  choices: z.record(z.string(), z.string()),
  amount: z.number().nullable(),
  seed: z.number(),
  sound: earSound,
  /** Where the clips are fetched; none of a made-up sound. */
  clips: z.array(z.string()),
  answers: z.array(z.object({ chosen: z.number(), seconds: z.number(), place: z.number() })),
});
export type OpenSession = z.infer<typeof openSession>;

const counted = { right: z.number(), trials: z.number() };
const end = z.object({ size: z.number(), beyond: z.boolean() });

/** Which sentence is said of a session, with its figures. */
export const said = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('tooFew'), trials: z.number() }),
  z.object({
    kind: z.enum(['heard', 'unheard']),
    size: z.number(),
    needed: z.number(),
    ...counted,
  }),
  z.object({ kind: z.literal('guessed'), guessing: z.number(), ...counted }),
  z.object({ kind: z.literal('smallest'), size: z.number(), ...counted }),
  z.object({ kind: z.literal('threshold'), size: z.number(), low: end, high: end, ...counted }),
]) satisfies z.ZodType<Said>;

/** A skill with what was chosen, for whoever says it in another language. */
const trained = {
  skill: z.string(),
  choices: z.record(z.string(), z.string()),
};

/** A session that is over, in English and as figures. */
export const pastSession = z.object({
  id: z.string(),
  /** ISO 8601. */
  at: z.string(),
  ...trained,
  /** The skill with what was chosen, in English. */
  title: z.string(),
  /** What it was on, in English. */
  on: z.string(),
  /** A made-up sound that it was on, or a clip that is there no more; null where `on` is a title. */
  made: z.enum([...MADE, 'clip']).nullable(),
  test: z.boolean(),
  said,
  /** The same in English. */
  says: z.string(),
  /** Sizes in words of the skill, for a picture; null where nothing was shown. */
  shown: z.object({ amount: z.number(), from: z.number(), to: z.number() }).nullable(),
  /** How sizes are spaced. */
  scale: z.enum(['ratio', 'level']),
  unit: z.string(),
});
export type PastSession = z.infer<typeof pastSession>;

/** Beside one's own: half of those of the panel who let it be seen hear as little, or less. */
export const amongPanel = z.object({
  ...trained,
  title: z.string(),
  people: z.number(),
  /** Null where fewer than half were shown to hear it. */
  amount: z.number().nullable(),
  /** In English. */
  says: z.string(),
});
export type AmongPanel = z.infer<typeof amongPanel>;

/** What whoever trains sees. */
export const training = z.object({
  /** The alias of somebody of the panel; null for an engineer. */
  alias: z.string().nullable(),
  shares: z.boolean(),
  open: openSession.nullable(),
  past: z.array(pastSession),
  panel: z.array(amongPanel),
  tests: z.array(
    z.object({
      id: z.string(),
      skill: z.string(),
      choices: z.record(z.string(), z.string()),
      amount: z.number(),
    }),
  ),
  /** Clips to train on, besides made-up sounds. */
  sounds: z.array(z.object({ title: z.string(), sound: earSound })),
});
export type Training = z.infer<typeof training>;

/** Clips of other chains that were matched together with a sound; none for one that is no clip. */
export function besideOf(
  sound: EarSound | null | undefined,
  offered: Training['sounds'],
): { title: string; chainId: string }[] {
  return offered.flatMap(({ title, sound: one }) =>
    one.kind === 'clip' &&
    sound?.kind === 'clip' &&
    one.clipSetId === sound.clipSetId &&
    one.chainId !== sound.chainId
      ? [{ title, chainId: one.chainId }]
      : [],
  );
}

export const earsQuery = listQueryOf(['newest']);
export type EarsQuery = z.infer<typeof earsQuery>;

/** The engineer's page of training. */
export interface EarsView {
  query: EarsQuery;
  /** Sessions of theirs that ended, as far back as is looked. */
  found: number;
  /** Whether there may be older ones. */
  andOlder: boolean;
  goesOn: boolean;
  rows: PastSession[];
  /** Thresholds that were shown, the newest first. */
  progress: {
    at: string;
    title: string;
    amount: number;
    from: number;
    to: number;
    scale: PastSession['scale'];
    unit: string;
  }[];
  panel: AmongPanel[];
  tests: { id: string; title: string }[];
  given: { id: string; title: string; pair: boolean; shut: boolean }[];
  clips: Training['sounds'];
}
