import { z } from 'zod';
import { CAUTIONS } from '@/core/chain/cautions';
import { stageSettings, stagesWords } from '@/core/processing/stages';
import { type ItemSettings, PATTERN_NAMES, type PatternName } from '@/core/chain/specs';

/** How an item is set in a chain; nothing has to be. */
const itemSettings = z.strictObject({
  gainDb: z
    .number()
    .min(-40, 'Gain lies between -40 and 90 dB.')
    .max(90, 'Gain lies between -40 and 90 dB.')
    .optional(),
  knobPosition: z.string().max(20).optional(),
  pattern: z.enum(PATTERN_NAMES as [PatternName, ...PatternName[]]).optional(),
  padDb: z.number().min(0).max(60).optional(),
  highPassHz: z.number().min(0).max(1000).optional(),
  phantom: z.boolean().optional(),
  switches: z.string().trim().max(200, 'Keep the switches under 200 characters.').optional(),
}) satisfies z.ZodType<ItemSettings>;

/** Characters of a chain's name. */
const MOST_NAME = 80;
/** Stages that a variant goes through at most. */
const MOST_STAGES = 8;

/**
 * One microphone, a stereo pair of the first microphone, a blend with another chain, or a variant of another chain:
 * its sound once more, processed or of another take.
 */
export const chainShape = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('single') }),
  z.object({
    kind: z.literal('pair'),
    spacingM: z.number().min(0, 'Spacing cannot be negative.').max(20, 'Spacing is at most 20 m.'),
    openingDeg: z.number().min(0).max(360, 'The opening is at most 360°.'),
  }),
  z.object({
    kind: z.literal('blend'),
    otherChainId: z.uuid('Choose the other chain of the blend.'),
    /** Whose take the blend begins with; its own when null. */
    firstChainId: z.uuid().nullable().default(null),
    timing: z.enum(['aligned', 'as recorded']).default('aligned'),
    polarity: z.enum(['corrected', 'as recorded']).default('corrected'),
    /** Level of the other chain against this one. */
    otherDb: z.number().min(-60).max(20, 'The other chain is at most 20 dB louder.'),
  }),
  z.object({
    kind: z.literal('variant'),
    ofChainId: z.uuid('Choose the chain that it is a variant of.'),
    /** Which take of that chain; the one that the match takes when null. */
    takeId: z.uuid().nullable().default(null),
    /** What that take is beside the chain's own: played another time, or its sound put through something elsewhere. */
    takeAs: z.enum(['another take', 'rendered elsewhere']).default('another take'),
    /** What it goes through, in this order; raw when empty. */
    stages: z
      .array(stageSettings)
      .max(MOST_STAGES, `A variant goes through ${MOST_STAGES} stages at most.`)
      .default([]),
  }),
]);
export type ChainShape = z.infer<typeof chainShape>;

export type Variant = Extract<ChainShape, { kind: 'variant' }>;

/** "high-pass 80 Hz", "another take", "rendered elsewhere", or such together: how a variant differs from its chain. */
export function variantWords(
  { takeId, takeAs, stages }: Pick<Variant, 'takeId' | 'takeAs' | 'stages'>,
  nameOf: (chainId: string) => string,
): string {
  const take = takeId === null ? '' : takeAs;
  return [take, stagesWords(stages, nameOf)].filter(Boolean).join(', ') || 'as it is';
}

/** What a variant is called unless somebody names it: as much of what was done as a name holds. */
export function variantName(of: string, words: string): string {
  const whole = `${of}, ${words}`;
  if (whole.length <= MOST_NAME) return whole;
  const cut = whole.slice(0, MOST_NAME - 1);
  return `${cut.slice(0, Math.max(cut.lastIndexOf(', '), of.length)).slice(0, MOST_NAME - 1)}…`;
}

/** "pair, 17 cm, 110°" */
export function pairWords({
  spacingM,
  openingDeg,
}: Pick<Extract<ChainShape, { kind: 'pair' }>, 'spacingM' | 'openingDeg'>): string {
  return `pair, ${Math.round(100 * spacingM)} cm, ${openingDeg}°`;
}

/** What an engineer writes about a chain; the price in whole cents of the studio's currency. */
export const chainDraft = z.object({
  name: z
    .string()
    .trim()
    .min(1, 'Give the chain a name.')
    .max(MOST_NAME, `Keep the name under ${MOST_NAME} characters.`),
  /** In words: what is in it where no gear is named, else remarks. */
  items: z.string().trim().max(1000, 'Keep the list under 1000 characters.'),
  /** Written by hand; chains made of gear take theirs from the list. */
  priceCents: z
    .int('The price is a whole number of cents.')
    .min(0, 'A price cannot be negative.')
    .max(1_000_000_000, 'This price is too high to be true.')
    .nullable(),
  distanceM: z
    .number()
    .min(0.001, 'The distance is more than 0.')
    .max(1000, 'The distance is at most 1000 m.')
    .nullable()
    .default(null),
  angleDeg: z.number().min(-180).max(180, 'Angles go from -180° to 180°.').nullable().default(null),
  shape: chainShape.default({ kind: 'single' }),
  gear: z
    .array(z.object({ gearId: z.uuid(), settings: itemSettings }))
    .max(16, 'A chain has 16 items at most.')
    .default([]),
});
export type ChainDraft = z.infer<typeof chainDraft>;
/** As written by callers that leave the rest to its defaults. */
export type ChainInput = z.input<typeof chainDraft>;

export const chainChange = chainDraft.extend({ version: z.int() });

/** What a grid goes through, of each kind at most. */
const MOST_VALUES = 6;

/** Every microphone with every preamp, and with whatever else is to vary. */
export const gridOrder = z
  .object({
    microphoneIds: z.array(z.uuid()).min(1, 'Choose a microphone.').max(12),
    preampIds: z.array(z.uuid()).max(12),
    /** Items after them that all chains share, such as the converter. */
    sharedIds: z.array(z.uuid()).max(6),
    /** Each set at the microphone; as it is when none is named. */
    patterns: z.array(itemSettings.shape.pattern.unwrap()).max(MOST_VALUES).default([]),
    /** Whose switch the positions are of. */
    switchOn: z.enum(['microphone', 'preamp']).default('microphone'),
    positions: z
      .array(z.string().trim().min(1).max(40, 'Keep a switch position under 40 characters.'))
      .max(MOST_VALUES, `A grid goes through ${MOST_VALUES} switch positions at most.`)
      .default([]),
    distancesM: z
      .array(chainDraft.shape.distanceM.unwrap().unwrap())
      .max(MOST_VALUES, `A grid goes through ${MOST_VALUES} distances at most.`)
      .default([]),
  })
  .refine(({ positions, switchOn, preampIds }) => {
    return positions.length === 0 || switchOn === 'microphone' || preampIds.length > 0;
  }, 'Choose the preamps whose switch has these positions.');
export type GridOrder = z.infer<typeof gridOrder>;
export type GridInput = z.input<typeof gridOrder>;

export const referenceOrder = z.object({
  chainId: z.uuid().nullable(),
  reason: z.string().trim().max(500, 'Keep the reason under 500 characters.'),
});

const CAUTION_IDS = CAUTIONS.map(({ id }) => id) as [string, ...string[]];
export const cautionOrder = z.object({ caution: z.enum(CAUTION_IDS, 'There is no such caution.') });

export interface Chain extends ChainDraft {
  id: string;
  position: number;
  version: number;
}

/** Whether a chain is the sound of another once more: nothing to record, to buy or to count. */
export function isVariant(chain: Chain): chain is Chain & { shape: Variant } {
  return chain.shape.kind === 'variant';
}

/** The chain whose tone a variant was given, where it differs from its own by nothing else; null for all others. */
export function tonedAs(chain: Chain): string | null {
  if (!isVariant(chain) || chain.shape.takeId !== null) return null;
  const [stage, ...more] = chain.shape.stages;
  const toned = more.length === 0 && stage?.kind === 'tone-match' && 'chainId' in stage;
  return toned ? stage.chainId : null;
}

export interface ReferenceChange {
  comparison: string;
  chainName: string;
  reason: string;
  changedAt: Date;
}
