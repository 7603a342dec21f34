import { z } from 'zod';
import { patternFault } from '@/core/checks/naming';
import { PROGRAMME_IDS, type ProgrammeId } from '@/core/checks/programme';
import type { Performance } from '@/core/checks/performances';
import type { ReferenceAlignment } from '@/core/checks/set/set-check';
import type { Comparison } from '@/core/spectrum/compare-two';
import type { CheckRemark } from '@/core/checks/take/check';
import { listQueryOf } from '@/platform/list-query';
import { uuid } from '@/steps/comparisons/schema';
import type { StoredFacts } from './facts';

/** What travels with an upload, beside its bytes. */
export const uploadMetadata = z.object({
  comparisonId: uuid,
  filename: z.string().min(1).max(300, 'The file name is too long; shorten it.'),
  pattern: z
    .string()
    .refine((pattern) => patternFault(pattern) === null, 'The naming pattern cannot be used.')
    .default(''),
});

const MOST_TAKES = 1000;
const takeIds = z.array(uuid).min(1, 'Choose a take.').max(MOST_TAKES);

/** Several takes at once: what is given is changed, the rest stays. */
export const takesChange = z.object({
  takeIds,
  chainId: uuid.nullable().optional(),
  newChainName: z.string().trim().min(1, 'Give the chain a name.').max(80).optional(),
  sourceId: uuid.optional(),
  programme: z.enum(PROGRAMME_IDS).optional(),
  detail: z.string().trim().max(120, 'Keep the detail under 120 characters.').optional(),
  /** Null: as it is worked out. */
  performance: z.int().min(1).max(999, 'Count performances up to 999.').nullable().optional(),
});
export type TakesChange = z.infer<typeof takesChange>;

/** Which channels of a file belong to which chain. */
export const channelMap = z.object({
  parts: z
    .array(
      z.object({
        channels: z.array(z.int().min(0).max(63)).min(1).max(2),
        chainId: uuid.nullable(),
      }),
    )
    .min(1, 'Choose at least one channel.')
    .max(64),
});
export type ChannelMap = z.infer<typeof channelMap>;

export const overrideOrder = z.object({
  check: z.string().min(1).max(60),
  /** Null takes it back. */
  reason: z
    .string()
    .trim()
    .min(1, 'Write in a few words why it may stay.')
    .max(300, 'Keep the reason under 300 characters.')
    .nullable(),
});

/** Peaks for drawing: largest magnitude per 1/PEAKS_PER_S second, 0 … 255. */
export const PEAKS_PER_S = 50;

/** A take as it lies in the bank. */
export interface StoredTake {
  id: string;
  chainId: string | null;
  fileName: string;
  state: 'waiting' | 'ready' | 'refused' | 'duplicate';
  remark: string | null;
  facts: StoredFacts | null;
  sourceId: string;
  programme: ProgrammeId;
  detail: string;
  channels: number[] | null;
  /** Somebody chose it. */
  picked: boolean;
  /** Of takes that were recorded one after another: it is among those nearest to each other. */
  nearest: boolean;
  /** It is of the performance that most chains recorded. */
  foremost: boolean;
  simulated: boolean;
  referenceAlignment: ReferenceAlignment | null;
  /** Checks that were looked at and accepted. */
  overrides: { check: string; reason: string }[];
  /** Which time of playing it is of, where somebody said so. */
  givenPerformance: number | null;
  /** Whether its source is played from a loudspeaker, the same again and again. */
  replayed: boolean;
}

/** A take with what is worked out of all together. */
export interface Take extends StoredTake {
  checks: CheckRemark[];
  /** Which time of playing it is of, and what tells; null for what is no performance of a chain. */
  performance: Performance | null;
}

/** A take as pages show it: what is measured for other steps stays in the bank. */
export type ShownTake = Omit<Take, 'facts' | 'referenceAlignment'> & {
  facts:
    | (Pick<
        StoredFacts,
        | 'encoding'
        | 'channels'
        | 'bitDepth'
        | 'sampleRateHz'
        | 'durationS'
        | 'metadata'
        | 'warnings'
      > & { measurement: Pick<StoredFacts['measurement'], 'integratedLufs' | 'truePeakDbtp'> })
    | null;
  referenceAlignment: Pick<ReferenceAlignment, 'onsetDelayS'> | null;
};

/** All takes of one time that somebody played. */
export const performanceChoice = z.object({
  sourceId: uuid,
  number: z.int().min(1).max(999),
});
export type PerformanceChoice = z.infer<typeof performanceChoice>;

const figure = z.number().nullable();

/** Two takes against each other. */
export const compared = z.object({
  delaySamples: z.number(),
  polarityInverted: z.boolean(),
  coherence: z.number(),
  samePerformance: z.boolean(),
  levelDb: figure,
  lowTiltDb: figure,
  highTiltDb: figure,
  bands: z.array(z.object({ centerHz: z.number(), differenceDb: figure, coherence: z.number() })),
  nullDb: figure,
  width: z.object({ referenceDb: figure, otherDb: figure }).nullable(),
}) satisfies z.ZodType<Comparison>;

/** What an address says of the list of takes: what is looked for, narrowed to all, what is odd, what is no chain's, or a step. */
export const takesQuery = listQueryOf(['step', 'name']).extend({
  show: z
    .enum(['all', 'odd', 'free', ...PROGRAMME_IDS])
    .catch('all')
    .default('all'),
  /** The files themselves, or what was measured of them. */
  tab: z.enum(['files', 'measured']).catch('files').default('files'),
});
export type TakesQuery = z.infer<typeof takesQuery>;

/** A zip that is being unpacked, or could not be. */
export interface Archive {
  id: string;
  fileName: string;
  state: 'waiting' | 'ready' | 'failed';
  remark: string | null;
}
