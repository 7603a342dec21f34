import { z } from 'zod';
import type { ProcessSettings } from '@/core/processing/settings';
import { compressor } from './compressor';
import { deEsser } from './de-esser';
import { equaliser } from './equaliser';
import { highPass } from './high-pass';
import { level } from './level';
import { saturation } from './saturation';
import type { StageKind } from './stage-kind';
import { toneMatch } from './tone-match';

/** Kinds of processing, in the order in which they are offered. */
const KINDS = [highPass, equaliser, compressor, deEsser, saturation, toneMatch, level] as const;

/** One stage of what a variant goes through. */
export type StageSettings = z.infer<(typeof KINDS)[number]['schema']>;

/** A kind, which takes settings of its own kind alone. */
export type AnyStageKind = StageKind<StageSettings>;

/** Every kind as one that takes any settings: each is only ever given those that name it. */
export const STAGE_KINDS = KINDS as readonly unknown[] as readonly AnyStageKind[];

/** The kind that settings belong to. @throws RangeError for a word that is no kind */
export function stageKindOf({ kind }: { kind: string }): AnyStageKind {
  const found = STAGE_KINDS.find(({ id }) => id === kind);
  if (!found) throw new RangeError(`no kind of processing is called ${kind}`);
  return found;
}

/** Settings as they come from outside: of a kind that there is, and within its limits. */
export const stageSettings = z
  .looseObject({
    kind: z.enum(
      KINDS.map(({ id }) => id) as [string, ...string[]],
      'There is no such processing.',
    ),
  })
  .transform((given, context): StageSettings => {
    const read = stageKindOf(given).schema.safeParse(given);
    if (read.success) return read.data;
    for (const { message, path } of read.error.issues) {
      context.addIssue({ code: 'custom', message, path: [...path] });
    }
    return z.NEVER;
  });

/** A stage with every setting where it begins. @param chainId the other chain, where it needs one */
export function startOf({ id, figures, choices, towards }: AnyStageKind, chainId: string) {
  const starts = Object.entries({ ...figures, ...choices }).map(([key, { start }]) => [key, start]);
  return {
    kind: id,
    ...Object.fromEntries(starts),
    ...(towards === null ? {} : { chainId }),
  } as StageSettings;
}

/** The processing of a context, stage by stage. */
export function stagesOf({
  highPassHz,
  eq,
  compressor,
  deEsser,
}: ProcessSettings): StageSettings[] {
  return [
    ...(highPassHz === null ? [] : [{ kind: 'high-pass' as const, hz: highPassHz }]),
    ...eq.map((band) => ({ kind: 'equaliser' as const, ...band })),
    ...(compressor ? [{ kind: 'compressor' as const, ...compressor }] : []),
    ...(deEsser ? [{ kind: 'de-esser' as const, ...deEsser }] : []),
  ];
}

/** All that a variant goes through, in words: "high-pass 80 Hz, +0.5 dB on purpose"; '' for nothing. */
export function stagesWords(
  stages: readonly StageSettings[],
  nameOf: (chainId: string) => string,
): string {
  return stages.map((stage) => stageKindOf(stage).words(stage, nameOf)).join(', ');
}

/** By how much a variant shall stand off the common level, dB. */
export function offsetOf(stages: readonly StageSettings[]): number {
  return stages.reduce((sum, stage) => sum + (stageKindOf(stage).offsetDb?.(stage) ?? 0), 0);
}
