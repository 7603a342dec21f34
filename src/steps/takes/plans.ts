import { z } from 'zod';
import {
  MOST_DETAIL,
  MOST_DETAILS,
  type PlannedStep,
  plannedFault,
  PROGRAMME_IDS,
  programmeStep,
} from '@/core/checks/programme';
import { CAPTURE_METHODS } from '@/core/checks/set/set-check';
import { BENCH_ROOMS, type BenchRoom } from '@/core/simulation/recording-bench';
import { uuid } from '@/steps/comparisons/schema';

const INSTRUMENTS = ['contralto', 'cello', 'clarinet'] as const;
const ROOMS = Object.keys(BENCH_ROOMS) as [BenchRoom, ...BenchRoom[]];

const plannedStep = z
  .strictObject({
    programme: z.enum(PROGRAMME_IDS),
    /** Angles, distances, switches; the usual ones where none is named. */
    details: z
      .array(
        z
          .string()
          .trim()
          .min(1)
          .max(MOST_DETAIL, `Keep what a step is recorded with under ${MOST_DETAIL} characters.`),
      )
      .max(MOST_DETAILS, `A step has at most ${MOST_DETAILS} details.`),
  })
  .superRefine((step, context) => {
    const message = plannedFault(step);
    if (message !== null) context.addIssue({ code: 'custom', message });
  });

/** The test programme as an engineer plans it. */
export const programmePlan = z
  .array(plannedStep)
  .max(PROGRAMME_IDS.length)
  .superRefine((steps, context) => {
    const twice = steps.find(
      ({ programme }, i) => steps.findIndex((other) => other.programme === programme) < i,
    );
    if (twice) {
      const message = `“${programmeStep(twice.programme).label}” stands twice.`;
      context.addIssue({ code: 'custom', message });
    }
  });

/** A programme as it was stored; none where it cannot be read any more. */
export function plannedProgramme(stored: unknown): PlannedStep[] {
  return programmePlan.catch([]).parse(stored);
}

/** What the simulated bench shall record. */
export const benchPlan = z.object({
  chainIds: z.array(uuid).min(1, 'Choose a chain.').max(24),
  instrument: z.enum(INSTRUMENTS),
  sourceId: uuid,
  capture: z.enum(CAPTURE_METHODS),
  takes: z.int().min(1).max(6, 'Six takes of a chain are the most.'),
  programme: programmePlan.min(1, 'Choose what to record.'),
  room: z.enum(ROOMS),
  accidents: z.boolean(),
  seed: z.int().min(0).max(1_000_000),
});
export type BenchPlan = z.infer<typeof benchPlan>;

/** An order as it was stored: older ones name steps alone. */
export const storedBenchPlan = z.preprocess((stored) => {
  const older = z.looseObject({ programme: z.array(z.string()) }).safeParse(stored);
  if (!older.success) return stored;
  return {
    ...older.data,
    programme: older.data.programme.map((programme) => ({ programme, details: [] })),
  };
}, benchPlan);

/** In which order, and how often, everything is recorded. */
export const runSheetPlan = z.object({
  /** At once: all chains side by side, a performance is one time for all of them. */
  order: z.enum(['at once', 'rotated', 'randomised']),
  takes: z.int().min(1, 'At least one take.').max(12, 'Twelve takes of a chain are the most.'),
  /** The reference returns after so many other takes; 0: first and last only. */
  referenceEvery: z.int().min(0).max(50),
  days: z.int().min(1).max(14, 'Fourteen days are the most.'),
  programme: programmePlan,
  sourceIds: z.array(uuid).min(1, 'Choose a source.').max(25),
  seed: z.int().min(0).max(1_000_000),
});
export type RunSheetPlan = z.infer<typeof runSheetPlan>;
