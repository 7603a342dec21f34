import { z } from 'zod';
import type { ReferenceAlignment } from '@/core/checks/set/set-check';

/** Counts up whenever takes are measured in another way; what is older is measured again. */
export const FACTS_VERSION = 2;

const figure = z.number().nullable();
const bands = z.array(figure);

/** What is measured of a take when it arrives, as it lies in the bank. */
export const storedFacts = z.object({
  /** 1: third octaves from pieces without overlap; 2: by Welch's method, silence left out. */
  version: z.int().default(1),
  /** Of the samples and how they are written, whatever else stands in the file. */
  soundSha256: z.string().optional(),
  sampleRateHz: z.number().positive(),
  channels: z.int().positive(),
  bitDepth: z.int(),
  encoding: z.enum(['pcm', 'float']),
  frames: z.int().min(0),
  durationS: z.number().min(0),
  dataOffset: z.int(),
  warnings: z.array(z.string()),
  metadata: z.object({
    description: z.string().optional(),
    originator: z.string().optional(),
    originationDate: z.string().optional(),
    originationTime: z.string().optional(),
    timeReferenceSamples: z.number().optional(),
    info: z.record(z.string(), z.string()).optional(),
  }),
  measurement: z.object({
    integratedLufs: figure,
    momentaryMaxLufs: figure,
    shortTermMaxLufs: figure,
    loudnessRangeLu: figure,
    truePeakDbtp: figure,
    samplePeakDbfs: figure,
    rmsDbfs: figure,
    dcOffset: z.array(z.number()),
    clippedSamples: z.int(),
  }),
  /** Absent in what the first versions measured, as are its bands. */
  features: z
    .object({
      hum: z.object({ hz: z.literal([50, 60]), levelDbfs: z.number() }).nullable(),
      dropouts: z.object({ count: z.int(), longestS: z.number(), firstS: z.number() }),
      nearPeakShare: z.number(),
      cutoffHz: figure,
      toneDbfs: figure,
      thirdsDb: bands.optional(),
      aWeightedDbfs: figure.optional(),
      below120Dbfs: figure.optional(),
    })
    .optional(),
});
export type StoredFacts = z.infer<typeof storedFacts>;

/** How a take lies to the reference of its performance, as it lies in the bank. */
export const storedReferenceAlignment = z.object({
  referenceTakeId: z.string(),
  delaySamples: z.number(),
  polarityInverted: z.boolean(),
  coherence: z.number(),
  driftPpm: figure,
  onsetDelayS: figure,
  own: z.object({ coherence: z.number(), levelDb: z.number() }).nullable(),
}) satisfies z.ZodType<ReferenceAlignment>;
