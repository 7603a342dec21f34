import { z } from 'zod';
import { NO_RULE, setAsideRule } from '@/core/design/set-aside-rule';
import { TRAINING_SOUNDS } from '@/core/simulation/training-sounds';
import { TASK_IDS, type TaskId, TASKS } from '@/core/tasks';
import { TOLD_APART } from '@/core/design/told-apart';
import { listQueryOf } from '@/platform/list-query';

export const taskId = z.enum(TASK_IDS);

const word = z
  .string()
  .trim()
  .min(1)
  .max(30, 'Keep each word under 30 characters.')
  .regex(/^[^;,\n]*$/, 'A word holds no comma, semicolon or line break.');

/** One task over one set of clips. */
export const partDraft = z
  .object({
    task: taskId,
    clipSetId: z.uuid('Choose the clips of this part.'),
    prompt: z
      .string()
      .trim()
      .min(1, 'Write the question that listeners answer.')
      .max(200, 'Keep the question under 200 characters.'),
    tiesAllowed: z.boolean(),
    /** Judged trials of each listener; controls come on top. */
    trials: z
      .int('Trials are a whole number.')
      .min(1, 'A listener needs at least one trial.')
      .max(120, 'More than 120 trials tire anyone; 120 is the most.'),
    /** The only two chains of the part; the first is expected to have more of what is asked. */
    pair: z
      .tuple([z.uuid(), z.uuid()])
      .refine(([a, b]) => a !== b, 'A pair needs two different chains.')
      .nullable(),
    controls: z.object({
      self: z.boolean(),
      levelCatch: z.boolean(),
      repeats: z.int().min(0).max(20, 'At most 20 trials are asked twice.'),
    }),
    /** The next pair is the one whose answer tells most of this listener. */
    adaptive: z.boolean().default(false),
    /** Words to tick; only where the task asks for words. */
    words: z.array(word).max(60, 'More than 60 words nobody reads; 60 is the most.'),
  })
  .refine(({ task, pair }) => pair !== null || !TASKS[task].ofOnePair, {
    message: 'This task compares two chains; name them.',
    path: ['pair'],
  })
  .refine(({ task, words }) => TASKS[task].asksWords === words.length > 0, {
    message: 'Give at least one word to tick.',
    path: ['words'],
  })
  .refine(
    ({ adaptive, task, pair, controls }) =>
      !adaptive || (TASKS[task].adaptable && !pair && controls.repeats === 0),
    {
      message: 'Adaptive pairs choose among all chains, and ask nothing twice.',
      path: ['adaptive'],
    },
  )
  .refine(({ words }) => new Set(words).size === words.length, {
    message: 'Each word once is enough.',
    path: ['words'],
  });
export type PartDraft = z.infer<typeof partDraft>;

/** What a sitting is for: the panel, a walk through it that is not kept, or a test of one's own ears. */
export const PURPOSES = ['panel', 'rehearsal', 'self-test'] as const;
export type Purpose = (typeof PURPOSES)[number];

/** Why nobody tests themselves on what the panel is asked about. */
export const ASKED_NOW =
  'A sitting of the panel over these clips is open, and a test ends with the names; test yourself once it is closed.';

/** When listeners are told the names. */
export const REVEALS = ['never', 'after closing', 'after each part'] as const;

/** The most blind pairs that are heard once more with names. */
export const MOST_SIGHTED = 8;

/** Parts whose pairs can be asked again with the names in place of the words. */
export const namesPairs = ({ task }: { task: TaskId }): boolean => TASKS[task].section === 'pair';

/** Orders of all seats are drawn and sealed before the first answer. */
export const MOST_SEATS = 2000;
/** Trials of all seats together that one seal is drawn for. */
const MOST_TRIALS = 120_000;

/** What listeners read must not name a chain; that is checked when the sitting is sealed. */
export const sittingDraft = z
  .object({
    title: z
      .string()
      .trim()
      .min(1, 'Say in a few words what listeners will hear.')
      .max(120, 'Keep it under 120 characters.'),
    seats: z
      .int('Seats are a whole number.')
      .min(1, 'At least one listener.')
      .max(MOST_SEATS, `A sitting has at most ${MOST_SEATS.toLocaleString('en-GB')} seats.`),
    codeMode: z.enum(['fresh', 'fixed']),
    /** Whether only people with a link of their own may come. */
    invitedOnly: z.boolean().default(false),
    /** Own headphones at one's own pace, or all at once in one room. */
    room: z.enum(['own', 'together']),
    /** Whether listeners are told the names, of their own answers and in the key. */
    reveal: z.enum(REVEALS).default('after closing'),
    /** What is heard before each trial, to clear the ear. */
    resetSound: z.enum(['none', 'noise', 'silence']),
    /** What the level is set by, and practised on. */
    trainingSound: z.enum(TRAINING_SOUNDS).default('music'),
    parts: z
      .array(partDraft)
      .min(1, 'A sitting needs at least one part.')
      .max(12, 'A sitting has at most twelve parts.'),
    /** The one part that is judged by itself, from 1; the others are corrected for each other. */
    primaryPart: z.int().min(1).default(1),
    /** Whom a second reading leaves out. */
    setAside: setAsideRule.default(NO_RULE),
    /** Whether listeners are asked first which chain they expect to win; they read the names for it. */
    asksGuess: z.boolean().default(false),
    /** How many of their own blind pairs each listener hears once more at the end, with names and prices. */
    sightedTrials: z
      .int('Pairs with names are a whole number.')
      .min(0)
      .max(MOST_SIGHTED, `At most ${MOST_SIGHTED} pairs are heard again with names.`)
      .default(0),
  })
  .refine(({ reveal, codeMode }) => reveal !== 'after each part' || codeMode === 'fresh', {
    message:
      'Names after each part need fresh code words: one word for each recording would name it in the parts to come.',
    path: ['parts'],
  })
  .refine(
    ({ sightedTrials, room, reveal, parts }) =>
      sightedTrials === 0 || (room === 'own' && reveal !== 'never' && parts.some(namesPairs)),
    {
      message:
        'Pairs with names at the end need a part of pairs, own headphones, and listeners who may be told the names.',
      path: ['parts'],
    },
  )
  .refine(
    ({ seats, parts }) => seats * parts.reduce((sum, { trials }) => sum + trials, 0) <= MOST_TRIALS,
    {
      message: `Seats times trials come to more than ${MOST_TRIALS.toLocaleString('en-GB')}; take fewer seats, or fewer trials for each.`,
      path: ['seats'],
    },
  )
  .refine(({ asksGuess, reveal }) => !asksGuess || reveal !== 'never', {
    message: 'Who is asked for a guess reads the names; so they are told afterwards as well.',
    path: ['parts'],
  })
  .refine(({ parts, primaryPart }) => primaryPart <= parts.length, {
    message: 'Choose the primary part among those there are.',
    path: ['parts'],
  })
  .refine(
    ({ parts, room, codeMode }) =>
      (room === 'own' && codeMode === 'fresh') || !parts.some(({ adaptive }) => adaptive),
    {
      message: 'Adaptive pairs need own headphones and fresh code words.',
      path: ['parts'],
    },
  );
/** What a listener expects before they hear anything. */
export const listenerGuess = z.object({
  favouriteChainId: z.string().nullable(),
  toldApart: z.enum(TOLD_APART).nullable(),
});
export type ListenerGuess = z.infer<typeof listenerGuess>;

export type SittingDraft = z.infer<typeof sittingDraft>;

/** What a plan is unless it says otherwise. */
export const PLAIN_PLAN = {
  codeMode: 'fresh',
  invitedOnly: false,
  resetSound: 'none',
  trainingSound: 'music',
  reveal: 'after closing',
  room: 'own',
  primaryPart: 1,
  setAside: NO_RULE,
  asksGuess: false,
  sightedTrials: 0,
} as const satisfies Partial<SittingDraft>;

export const sealBreaking = z.object({
  reason: z
    .string()
    .trim()
    .min(1, 'Say why; it is kept and stands in every report.')
    .max(500, 'Keep the reason under 500 characters.'),
  /** Typed by hand, so that nobody breaks a seal by a slip. */
  title: z.string(),
});
export type SealBreaking = z.infer<typeof sealBreaking>;

const MOST_SHEETS = 40;

/** Of a sitting that was answered elsewhere. */
const givenTitle = z
  .string()
  .trim()
  .min(1, 'Give the sitting a title.')
  .max(120, 'Keep the title under 120 characters.');

/** Sheets of a blind pack as they came back; looked at first, imported when asked to. */
export const packSheets = z.object({
  sheets: z
    .array(z.object({ name: z.string().max(255), text: z.string() }))
    .min(1, 'Choose at least one sheet.')
    .max(MOST_SHEETS, `At most ${MOST_SHEETS} sheets at once.`),
  title: givenTitle,
  apply: z.boolean(),
});
export type PackSheets = z.infer<typeof packSheets>;

/** What sheets hold, before anybody is told which word is which. */
export const packPreview = z.object({
  listeners: z.array(z.object({ name: z.string(), answers: z.int() })),
  skipped: z.object({ blank: z.int(), missing: z.int(), duplicate: z.int() }),
  faults: z.array(z.object({ sheet: z.string(), message: z.string() })),
  /** Sittings that were made of answers to this pack before. */
  before: z.array(z.object({ title: z.string(), at: z.iso.datetime() })),
});
export type PackPreview = z.infer<typeof packPreview>;

/** A file of results of another program; looked at first, imported when asked to. */
export const resultsFileOrder = z.object({
  name: z.string().trim().min(1).max(255),
  text: z.string(),
  title: givenTitle,
  apply: z.boolean(),
});
export type ResultsFileOrder = z.infer<typeof resultsFileOrder>;

export const resultsFilePreview = z.object({
  parts: z.array(
    z.object({ task: taskId, heard: z.string(), listeners: z.int(), trials: z.int() }),
  ),
  listeners: z.int(),
  /** Rows that were no judgements, and what was untidy, in sentences. */
  remarks: z.array(z.string()),
  faults: z.array(z.string()),
  /** Sittings that this very file was imported as before. */
  before: z.array(z.string()),
});
export type ResultsFilePreview = z.infer<typeof resultsFilePreview>;

/** What an engineer may see of a sitting; nothing of its key. */
export interface Sitting extends Omit<SittingDraft, 'primaryPart'> {
  id: string;
  /** Null in those that were sealed before there was one. */
  primaryPart: number | null;
  state: 'draft' | 'open' | 'closed';
  token: string;
  /** Short code for joining while it is open. */
  code: string | null;
  seal: string | null;
  sealBrokenAt: Date | null;
  sealBrokenReason: string | null;
  /** Whether the link that everybody shares, and its code, take new listeners. */
  sharedLink: boolean;
  simulated: boolean;
  /** The pack whose sheets its answers came from; null where they were given here. */
  blindPackId: string | null;
  /** The file of another program that it was brought in from; null where it was not. */
  broughtFile: string | null;
  openedAt: Date | null;
  closedAt: Date | null;
  /** When the names of a part were told first; null where none were told before closing. */
  toldAt: Date | null;
}

/** The plan of a sitting, without what became of it. */
export function planOf(sitting: Sitting): SittingDraft {
  const { title, seats, codeMode, invitedOnly, room, reveal, resetSound, trainingSound } = sitting;
  const { parts, setAside, asksGuess, sightedTrials } = sitting;
  return {
    title,
    seats,
    codeMode,
    invitedOnly,
    room,
    reveal,
    resetSound,
    trainingSound,
    parts,
    primaryPart: sitting.primaryPart ?? 1,
    setAside,
    asksGuess,
    sightedTrials,
  };
}

/** Counts that tell nothing of what was answered. */
export interface SittingCounts {
  joined: number;
  finished: number;
  answers: number;
  /** Trials that one listener has, controls included; 0 before the sitting is opened. */
  trialsEach: number;
}

const listenerShape = z.object({
  seat: z.int(),
  alias: z.string(),
  playback: z.string(),
  answers: z.int(),
  levelChanges: z.int(),
  /** When each device opened the seat first. */
  devices: z.array(z.iso.datetime()),
  forgotten: z.boolean(),
  /** Another seat that the same browser took, and who sits there. */
  sameAsSeat: z.int().nullable(),
  sameAs: z.string().nullable(),
});
/** Somebody of the panel, as far as an engineer may see before closing: nothing that was answered. */
export type SittingListener = Omit<z.infer<typeof listenerShape>, 'devices'> & { devices: Date[] };
export const listenerPage = z.object({ rows: z.array(listenerShape), found: z.int() });
export type ShownListener = z.infer<typeof listenerShape>;

/** Who comes first in the list of a sitting's listeners: as they came, by name, the least answers, the most changes of volume. */
export const listenerQuery = listQueryOf(['seat', 'alias', 'answers', 'volume']);
export type ListenerQuery = z.infer<typeof listenerQuery>;

const linkShape = z.object({
  id: z.string(),
  panelistId: z.string(),
  alias: z.string(),
  withdrawn: z.boolean(),
  /** Never given back: whom it was for was forgotten. */
  forgotten: z.boolean(),
  joined: z.boolean(),
});
/** A link of one person of the panel to a sitting. */
export type PersonalLink = z.infer<typeof linkShape>;
export const linkPage = z.object({ rows: z.array(linkShape), found: z.int() });
export const linkQuery = listQueryOf(['alias']);
export type LinkQuery = z.infer<typeof linkQuery>;

/** Somebody listened by name to what an open sitting asks about. */
export interface NamedListening {
  name: string;
  at: Date;
}

export const linkOrder = z.object({
  panelistIds: z.array(z.uuid()).min(1, 'Choose somebody of the panel.').max(100),
});
export const linkChange = z.object({ withdrawn: z.boolean() });
/** A personal link that was just made: its secret is told this once. */
export const freshLink = z.object({ alias: z.string(), token: z.string() });
export type FreshLink = z.infer<typeof freshLink>;
/** Somebody at a seat. */
export const seated = z.object({ seat: z.int().min(1).max(MOST_SEATS) });
/** Whether somebody listens by name although a sitting over it is open. */
export const insisting = z
  .literal('yes')
  .optional()
  .transform((said) => said === 'yes');
export const sharedLinkChange = z.object({ open: z.boolean() });

/** What one part costs and buys. */
export interface PartAccount {
  /** Controls and learning included. */
  trials: number;
  minutesEach: number;
  /** What its answers can tell, in a sentence. */
  buys: string;
}

/** What the panel's minutes buy, before they are spent. */
export interface SittingAccount {
  parts: PartAccount[];
  /** For what is heard once more with names; 0 where nothing is. */
  sightedMinutes: number;
  settlingMinutes: number;
  minutesEach: number;
  minutesInAll: number;
}

const sealedClips = z.record(z.string(), z.string());

/** What was sealed while a sitting was one part of pairs. */
export const firstSealedKey = z.object({
  document: z.literal('zeitbank sealed key 1'),
  sitting: z.string(),
  analysis: z.string(),
  chains: z.array(z.object({ id: z.string(), name: z.string(), clipSha256: z.string() })),
  /** Per seat, per trial: index of the first and second chain, and their code words. */
  seats: z.array(z.array(z.tuple([z.int(), z.int(), z.string(), z.string()]))),
  nonce: z.string(),
});

/** What the engineer had written down when the sitting was sealed, and the results are held against. */
export const sealedQuestion = z.object({
  /** The question itself and what is decided by it; seals from before it was part of them have none. */
  decides: z.string().default(''),
  /** Where it is asked: alone, processed, in the mix; empty in seals from before they were part of them. */
  contexts: z.array(z.string()).default([]),
  nullHypothesis: z.string(),
  smallestSharePct: z.number().nullable(),
  prediction: z.object({
    by: z.string(),
    favouriteChainId: z.string().nullable(),
    toldApart: z.enum(TOLD_APART).nullable(),
    remark: z.string(),
    at: z.string().nullable(),
  }),
});
export type SealedQuestion = z.infer<typeof sealedQuestion>;

/** A sitting of the panel with the question that was sealed with it. */
export interface SealedWith {
  sittingId: string;
  title: string;
  open: boolean;
  openedAt: Date;
  /** Null where none was sealed: answers from elsewhere, and seals from before it was part of them. */
  question: SealedQuestion | null;
}

/** What a sealed plan says that is read again. */
export const sealedPlan = z.object({
  primaryPart: z.int().min(1).optional(),
  question: sealedQuestion.optional(),
  room: z.enum(['own', 'together']).optional(),
  setAside: setAsideRule.optional(),
});

/** The sealed document; its canonical JSON is what is hashed. */
export const sealedKey = z.object({
  /** 2 told neither what wrote it nor the version of the analysis. */
  document: z.enum(['zeitbank sealed key 2', 'zeitbank sealed key 3']),
  program: z.string().optional(),
  sitting: z.string(),
  /** Title, seats, and each part's task, clips, question, controls and words. */
  plan: z.json(),
  analysis: z.string(),
  analysisVersion: z.int().optional(),
  chains: z.array(z.object({ id: z.string(), name: z.string() })),
  /** Per part: SHA-256 of each chain's clip. */
  clips: z.array(sealedClips),
  /** Per seat, per trial; in a room one for all seats. */
  seats: z.array(
    z.array(
      z.object({
        part: z.int(),
        kind: z.string(),
        right: z.int().nullable(),
        /** Index of the chain, added dB, code word. */
        slots: z.array(z.tuple([z.int(), z.number(), z.string()])),
      }),
    ),
  ),
  /** Per part with adaptive pairs: the lot for what the rule leaves open; its orders are where they began. */
  adaptiveSeeds: z.record(z.string(), z.int()).optional(),
  nonce: z.string(),
});
export type SealedKey = z.infer<typeof sealedKey>;
export const anySealedKey = z.union([sealedKey, firstSealedKey]);
