import { z } from 'zod';
import { MATCH_METHODS } from '@/core/matching/methods';
import type { ContextKind } from '@/core/matching/contexts';
import type { ProcessSettings } from '@/core/processing/settings';
import type { ClipDetails, ClipSetFacts } from './stored';
import type { ClipSpectra } from '@/core/spectrum/clip-spectra';
import type { ToneMatchSettings } from '@/core/spectrum/tone-match';
import { stageSettings } from '@/core/processing/stages';
import { uuid } from '@/steps/comparisons/schema';

export const ALIGNMENTS = ['performance', 'onset', 'hand'] as const;

export const alignmentChange = z.object({
  passageId: uuid,
  takeId: uuid,
  alignment: z.enum(ALIGNMENTS),
  delayMs: z.number().min(-5000, 'At most 5 s either way.').max(5000, 'At most 5 s either way.'),
});
export type AlignmentChange = z.infer<typeof alignmentChange>;

const decibels = (least: number, most: number) => z.number().min(least).max(most);
const processSettings = z.object({
  highPassHz: z.number().min(10).max(2000).nullable(),
  eq: z
    .array(
      z.object({
        shape: z.enum(['bell', 'lowshelf', 'highshelf']),
        hz: z.number().min(20).max(20_000),
        q: z.number().min(0.1).max(20),
        db: decibels(-24, 24),
      }),
    )
    .max(4, 'The equaliser has four bands.')
    .readonly(),
  compressor: z
    .object({
      thresholdDb: decibels(-40, 40),
      ratio: z.number().min(1).max(50),
      kneeDb: decibels(0, 40),
      attackMs: z.number().min(0.1).max(500),
      releaseMs: z.number().min(1).max(5000),
    })
    .nullable(),
  deEsser: z
    .object({
      fromHz: z.number().min(1000).max(16_000),
      thresholdDb: decibels(-60, 20),
      mostDb: decibels(0, 24),
    })
    .nullable(),
}) satisfies z.ZodType<ProcessSettings>;

const toneMatchSettings = z.object({
  phase: z.enum(['minimum', 'linear']),
  smoothing: z.enum(['third', 'sixth']),
  limitDb: decibels(1, 24),
}) satisfies z.ZodType<ToneMatchSettings>;

/** A context as it is ordered; what it needs besides is found when it is. */
export const contextOrder = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('raw') }),
  z.object({ kind: z.literal('alike'), settings: processSettings }),
  z.object({ kind: z.literal('tailored'), settings: z.record(uuid, processSettings) }),
  z.object({ kind: z.literal('mix'), balanceDb: decibels(-40, 20) }),
  z.object({ kind: z.literal('toned'), settings: toneMatchSettings }),
]);
export type ContextOrder = z.infer<typeof contextOrder>;

/** Contexts as people say them. */
export const CONTEXT_WORDS: Record<ContextKind, string> = {
  raw: 'raw',
  alike: 'processed alike',
  tailored: 'tailored',
  mix: 'in the mix',
  toned: 'tone-matched',
};
export const CONTEXT_KINDS = ['raw', 'alike', 'tailored', 'mix', 'toned'] as const;

const offsets = z.record(uuid, decibels(-24, 24)).default({});
const leftOut = z.array(uuid).max(100).default([]);

export const matchOrder = z.object({
  passageId: uuid,
  method: z.enum(MATCH_METHODS),
  referenceChainId: uuid,
  /** One set of clips is made for each. */
  contexts: z.array(contextOrder).min(1, 'Choose a context.').max(5),
  /** Chain by chain, dB; for the method by hand. */
  offsets,
  /** Chains whose take does not go in. */
  leftOut,
});
export type MatchOrder = z.infer<typeof matchOrder>;

/** The same choices for every passage that is marked. */
export const matchAllOrder = matchOrder.omit({ passageId: true });
export type MatchAllOrder = z.infer<typeof matchAllOrder>;

export const matchedAll = z.object({
  ids: z.array(z.string()),
  /** Passages of which no clips can be made so, each with its reason. */
  refused: z.array(z.object({ passage: z.string(), reason: z.string() })),
});

/** Whether two chains differ by more than EQ: one of them with the tone of the other beside both. */
export const onlyEqOrder = z
  .object({ passageId: uuid, chainId: uuid, asChainId: uuid })
  .refine(({ chainId, asChainId }) => chainId !== asChainId, 'Choose two chains.');
export type OnlyEqOrder = z.infer<typeof onlyEqOrder>;

/** A take as it goes into a set, with where it is laid. */
export const passageTake = z.object({
  takeId: uuid,
  chainId: uuid,
  audioId: z.int(),
  channels: z.array(z.int()).nullable(),
  alignment: z.enum(ALIGNMENTS),
  delayMs: z.number(),
});
/** Such a take of a chain, and which of its chain's takes of that step it is, from 1. */
export type PassageTake = z.infer<typeof passageTake> & { number: number };

/** A chain's part in a set: its take, and for a blend the other chain's. */
const setTake = passageTake.extend({
  chainName: z.string(),
  blend: z
    .object({
      audioId: z.int(),
      channels: z.array(z.int()).nullable(),
      otherDb: z.number(),
      timing: z.enum(['aligned', 'as recorded']),
      polarity: z.enum(['corrected', 'as recorded']),
    })
    .nullable(),
  /** What a variant goes through before anything that all clips go through; none for other chains. */
  stages: z.array(stageSettings).default([]),
  /** Gain that it was recorded at, dB, where it was written down. */
  recordedGainDb: z.number().nullable().default(null),
  /** Where its knob stood when nothing says that gain in decibels; else empty. */
  recordedKnob: z.string().default(''),
  /** Loudness of its chain's test sound, as if recorded at the gain of the take, LUFS; for that method only. */
  testLufs: z.number().nullable().default(null),
  /** The chain whose variant it is; null for other chains. */
  variantOf: uuid.nullable().default(null),
});
export type SetTake = z.infer<typeof setTake>;

/** What a set was ordered with. */
export const storedRecipe = z.object({
  context: contextOrder.default({ kind: 'raw' }),
  offsets,
  leftOut,
  backingTakeId: uuid.optional(),
  /** What it is made of, as it stood when it was ordered; absent in sets of earlier versions. */
  takes: z.array(setTake).optional(),
});
export type Recipe = z.infer<typeof storedRecipe>;

export interface Clip {
  chainId: string;
  /** What it was cut from. */
  takeId: string;
  fileName: string;
  delaySamples: number;
  polarityInverted: boolean;
  coherence: number | null;
  gainDb: number;
  /** Null where a clip is too quiet or too short to have a loudness. */
  beforeLufs: number | null;
  beforeRmsDbfs: number | null;
  afterLufs: number | null;
  residualLu: number;
  truePeakDbtp: number;
  /** Null for clips of earlier versions, until they are pictured. */
  spectra: ClipSpectra | null;
  details: ClipDetails;
}

export interface ClipSet {
  id: string;
  passageId: string;
  context: ContextKind;
  recipe: Recipe;
  method: MatchOrder['method'];
  referenceChainId: string;
  passageFromS: number;
  passageToS: number;
  state: 'waiting' | 'ready' | 'failed';
  remark: string | null;
  facts: ClipSetFacts | null;
  createdAt: Date;
  /** Sittings that use it; such a set is never replaced, a new match becomes a new version. */
  sittings: number;
}

export interface TakeAlignment {
  takeId: string;
  chainId: string;
  recordedGainDb: number | null;
  /** Heard of another chain's take, at the place of that. */
  borrowed: boolean;
  alignment: (typeof ALIGNMENTS)[number];
  delayMs: number;
}

/** A pack of coded clips, to be heard away from here. */
export const packOrder = z.object({
  question: z
    .string()
    .trim()
    .min(1, 'Write the question that listeners answer.')
    .max(200, 'Keep the question under 200 characters.'),
});

/** What an engineer notes while hearing clips. */
export const newNote = z.object({
  /** Of one clip, or of all of them. */
  chainId: uuid.nullable(),
  /** The loop that ran, seconds of the clip. */
  loopS: z
    .tuple([z.number().min(0).max(3600), z.number().min(0).max(3600)])
    .refine(([from, to]) => from <= to, 'A loop ends after it begins.')
    .nullable(),
  /** Whether the screen showed which chain sounded. */
  namesSeen: z.boolean(),
  note: z
    .string()
    .trim()
    .min(1, 'Write the note first.')
    .max(500, 'Keep a note under 500 characters.'),
});
export type NewNote = z.infer<typeof newNote>;

export interface ClipNote {
  id: string;
  chainId: string | null;
  accountId: string;
  author: string;
  at: Date;
  fromS: number | null;
  toS: number | null;
  namesSeen: boolean;
  note: string;
}
