import { z } from 'zod';
import { MARK_VALUES, type Mark } from '@/core/decision/marks';
import { RULE_IDS } from '@/core/decision/must-haves';
import { listQueryOf } from '@/platform/list-query';
import { uuid } from '@/steps/comparisons/schema';

const line = (what: string, most: number) =>
  z.string().trim().min(1, `Write ${what}.`).max(most, `Keep ${what} under ${most} characters.`);

/** One mark as it is given: of a chain, or of an item of gear; null takes it back. */
const markDraft = z.object({
  of: z.enum(['chain', 'gear']),
  id: uuid,
  criterion: line('the criterion', 60),
  value: z.enum(MARK_VALUES, 'A mark is 1 to 5, yes or no.').nullable(),
  remark: z.string().trim().max(300, 'Keep the remark under 300 characters.').default(''),
});
export type MarkDraft = z.infer<typeof markDraft>;

const MOST_MARKS = 500;
/** Marks that are given at once, as when a table is pasted: all or none. */
export const marksOrder = z.object({
  marks: z.array(markDraft).min(1, 'Give a mark.').max(MOST_MARKS, 'These are too many at once.'),
});

/** A mark as it lies there: who gave it, and when. */
export interface GivenMark extends Mark {
  /** Given by whoever looks. */
  mine: boolean;
  remark: string;
  /** Null where the gear list does not tell. */
  at: Date | null;
  /** Given after somebody could know which chain was which; null where that is not known. */
  afterReveal: boolean | null;
}

const ground = z.discriminatedUnion('by', [
  z.object({
    by: z.literal('rule'),
    rule: z.enum(RULE_IDS),
    limit: z.number('Write the limit as a number.').min(-1e6).max(1e8),
  }),
  z.object({
    by: z.literal('mark'),
    criterion: line('the criterion', 60),
    least: z.int().min(1).max(5, 'Marks go from 1 to 5.'),
  }),
  z.object({ by: z.literal('hand') }),
]);

const MOST_NAMED = 60;
/** What counts how much, and what must-haves rest on. Everything may stay as it is by itself. */
export const weighing = z.object({
  /** Weights of places, 0 to 5, by the part that is read there; one where nothing is said. */
  places: z
    .record(z.string().max(10), z.int().min(0).max(5, 'Weights go from 0 to 5.'))
    .default({}),
  /** By the text of the must-have. */
  grounds: z.record(z.string().max(120), ground).default({}),
  /** By the text of the must-have, then by chain. */
  byHand: z
    .record(z.string().max(120), z.record(uuid, z.enum(['pass', 'fail'])))
    .default({})
    .refine((all) => Object.keys(all).length <= MOST_NAMED, 'These are too many must-haves.'),
});
export type Weighing = z.infer<typeof weighing>;
export const NO_WEIGHING: Weighing = { places: {}, grounds: {}, byHand: {} };

export const weighingChange = z.object({ weighing, version: z.int().min(0) });

export const VERDICTS = [
  'chosen',
  'rejected',
  'postponed',
  'no difference that matters: take the cheaper',
] as const;

/** Where a reason rests: something on the page, by its name. */
export const EVIDENCE = ['heard', 'marks', 'must-haves', 'cost', 'by ear alone'] as const;

/** What somebody writes when deciding. */
export const decisionDraft = z.object({
  uses: z
    .array(
      z.object({
        /** For which source and use. */
        use: line('what it is for', 120),
        verdict: z.enum(VERDICTS),
        chainId: uuid.nullable(),
      }),
    )
    .min(1, 'Say for what use something is decided.')
    .max(12, 'Twelve uses are enough for one decision.')
    .superRefine((uses, context) => {
      const without = uses.findIndex(
        ({ verdict, chainId }) => verdict !== 'postponed' && chainId === null,
      );
      if (without < 0) return;
      context.addIssue({
        code: 'custom',
        path: [without, 'chainId'],
        message: 'Say which chain; only what is postponed can do without.',
      });
    }),
  reasons: z
    .array(z.object({ text: line('the reason', 500), rests: z.enum(EVIDENCE) }))
    .min(1, 'Give at least one reason.')
    .max(12, 'Twelve reasons are enough.'),
  wouldChange: z.string().trim().max(500, 'Keep it under 500 characters.'),
  decidedBy: line('who decided', 120),
  listenAgain: z.iso.date('Write the day as in 2027-03-14.').nullable(),
});
export type DecisionDraft = z.infer<typeof decisionDraft>;

/** A version is locked on top of the one that its writer saw, beside the sitting that they saw. */
export const decisionOrder = z.object({
  draft: decisionDraft,
  version: z.int().min(0),
  sittingId: uuid.nullable(),
});
export type DecisionOrder = z.infer<typeof decisionOrder>;

/** What lay on the table, as it stood when the decision was locked. */
const evidence = z.object({
  question: z.string(),
  sitting: z
    .object({
      /** Missing in records from before reasons led to what they rest on. */
      id: z.string().optional(),
      title: z.string(),
      seal: z.string(),
      closedAt: z.string(),
      sealBroken: z.string().nullable(),
      simulated: z.boolean(),
    })
    .nullable(),
  finding: z.string(),
  chains: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      heard: z.array(
        z.object({
          place: z.string(),
          unit: z.enum(['share', 'points']),
          value: z.number().nullable(),
          from: z.number().nullable(),
          to: z.number().nullable(),
          leads: z.boolean(),
        }),
      ),
      score: z.number().nullable(),
      coverage: z.number(),
      marks: z.array(
        z.object({ criterion: z.string(), points: z.number(), item: z.string().nullable() }),
      ),
      mustHaves: z.array(z.object({ text: z.string(), verdict: z.string(), ground: z.string() })),
      allCents: z.number().nullable(),
      toBuyCents: z.number().nullable(),
    }),
  ),
});
export type Evidence = z.infer<typeof evidence>;

/** A version as it was hashed. */
export const lockedRecord = z.object({
  form: z.literal('zeitbank decision 1'),
  version: z.int(),
  /** SHA-256 of the version before; null for the first. */
  before: z.string().nullable(),
  at: z.string(),
  by: z.string(),
  /** Names of the chains that are decided on, as they were. */
  uses: z.array(
    z.object({
      use: z.string(),
      verdict: z.enum(VERDICTS),
      chainId: z.string().nullable(),
      chain: z.string().nullable(),
    }),
  ),
  reasons: decisionDraft.shape.reasons,
  wouldChange: z.string(),
  decidedBy: z.string(),
  listenAgain: z.string().nullable(),
  evidence,
});
export type LockedRecord = z.infer<typeof lockedRecord>;

/** Counted up when the same answers give another forecast. */
const FORECAST_VERSION = 1;

/** What a larger panel might say, as it lies in a store; chains by id. */
export const storedForecast = z.object({
  version: z.literal(FORECAST_VERSION).default(FORECAST_VERSION),
  /** By part; those of which the best cannot be said are left out. */
  places: z.array(
    z.object({
      part: z.int(),
      task: z.enum(['pair', 'rating']),
      chains: z.array(z.string()),
      strengths: z.array(z.number()),
      redrawn: z.array(z.array(z.number())),
      now: z.array(z.string()),
      more: z.array(
        z.object({
          listeners: z.int(),
          draws: z.int(),
          open: z.array(z.object({ chains: z.array(z.string()), times: z.int() })),
        }),
      ),
    }),
  ),
});
export type StoredForecast = z.infer<typeof storedForecast>;

export const memoryQuery = listQueryOf(['newest', 'oldest']);
export type MemoryQuery = z.infer<typeof memoryQuery>;
