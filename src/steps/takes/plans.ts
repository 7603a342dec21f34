import { z } from 'zod';
import { PROGRAMME_IDS } from '@/core/checks/programme';
import { CAPTURE_METHODS } from '@/core/checks/set/set-check';
import { BENCH_ROOMS, type BenchRoom } from '@/core/simulation/bench';
import { uuid } from '@/steps/comparisons/schema';

const INSTRUMENTS = ['contralto', 'cello', 'clarinet'] as const;
const ROOMS = Object.keys(BENCH_ROOMS) as [BenchRoom, ...BenchRoom[]];

/** What the simulated bench shall record. */
export const benchPlan = z.object({
  chainIds: z.array(uuid).min(1, 'Choose a chain.').max(24),
  instrument: z.enum(INSTRUMENTS),
  sourceId: uuid,
  capture: z.enum(CAPTURE_METHODS),
  takes: z.int().min(1).max(6, 'Six takes of a chain are the most.'),
  programme: z.array(z.enum(PROGRAMME_IDS)).min(1, 'Choose what to record.'),
  room: z.enum(ROOMS),
  accidents: z.boolean(),
  seed: z.int().min(0).max(1_000_000),
});
export type BenchPlan = z.infer<typeof benchPlan>;

/** In which order, and how often, everything is recorded. */
export const runSheetPlan = z.object({
  order: z.enum(['rotated', 'randomised']),
  takes: z.int().min(1, 'At least one take.').max(12, 'Twelve takes of a chain are the most.'),
  /** The reference returns after so many other takes; 0: first and last only. */
  referenceEvery: z.int().min(0).max(50),
  days: z.int().min(1).max(14, 'Fourteen days are the most.'),
  programme: z.array(z.enum(PROGRAMME_IDS)).max(PROGRAMME_IDS.length),
  sourceIds: z.array(uuid).min(1, 'Choose a source.').max(25),
  seed: z.int().min(0).max(1_000_000),
});
export type RunSheetPlan = z.infer<typeof runSheetPlan>;
