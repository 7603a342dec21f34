import { z } from 'zod';
import { stageSettings } from '@/core/processing/stages';
import { SIXTH_OCTAVES, THIRD_OCTAVES } from '@/core/spectrum/bands';

/** Counts up whenever clips are pictured in another way; what is older is pictured again. */
export const SPECTRA_VERSION = 1;

const figure = z.number().nullable();

function bandsOf(count: number) {
  return z.object({
    levelsDb: z.array(figure).length(count),
    /** Only of bands in which the reference has something. */
    against: z.array(
      z.object({ centerHz: z.number(), differenceDb: figure, coherence: z.number() }),
    ),
  });
}

/** Spectra of a clip, and what turns the reference into it, as they lie in the bank. */
export const storedSpectra = z.object({
  /** 0: before it was kept. */
  version: z.int().default(0),
  third: bandsOf(THIRD_OCTAVES.length),
  sixth: bandsOf(SIXTH_OCTAVES.length),
});

/** What only some clips have to tell; absent in clips of earlier versions. */
export const storedDetails = z.object({
  driftPpm: figure.optional(),
  blend: z
    .object({
      /** How late the second chain was against the first, and what is left of that. */
      delaySamples: z.number(),
      polarityInverted: z.boolean(),
      leftSamples: z.number(),
      leftInverted: z.boolean(),
    })
    .nullable()
    .optional(),
  image: z
    .object({ correlation: z.number(), widthDb: figure, centreOffsetDb: z.number() })
    .nullable()
    .optional(),
  /** Whose variant it is, what it went through, how far it stands off the common level on purpose, dB. */
  variantOf: z.string().optional(),
  stages: z.array(stageSettings).optional(),
  onPurposeDb: z.number().optional(),
  /** What a tone match does in each band, dB. */
  toning: z
    .array(z.object({ centerHz: z.number(), db: z.number() }))
    .nullable()
    .optional(),
});
export type ClipDetails = z.infer<typeof storedDetails>;

/** What is known of a rendered set. */
export const storedSetFacts = z.object({
  targetLufs: z.number(),
  limitedBy: z.string().nullable(),
  worstResidualLu: z.number(),
  sampleRateHz: z.number().positive(),
  /** Takes of another rate than the reference; absent in sets of earlier versions. */
  resampled: z.array(z.object({ chain: z.string(), fromHz: z.number().positive() })).optional(),
  channels: z.int().positive(),
  frames: z.int().positive(),
});
export type ClipSetFacts = z.infer<typeof storedSetFacts>;
