import { z } from 'zod';
import { TOLD_APART } from '@/core/design/told-apart';
import { PROGRAMME_IDS, type ProgrammeId } from '@/core/checks/programme';
import { listQueryOf } from '@/platform/list-query';
import { CAPTURE_METHODS, type CaptureMethod } from '@/core/checks/set/set-check';

export const uuid = z.uuid('This address is not complete.');

const line = (what: string, most: number) =>
  z.string().trim().min(1, `Write ${what}.`).max(most, `Keep ${what} under ${most} characters.`);

/** What an engineer writes when starting or changing a comparison. */
export const comparisonDraft = z.object({
  title: line('a title', 120),
  question: z.string().trim().max(2000, 'Keep the question under 2000 characters.'),
  sourceName: line('who or what is heard', 120),
  passageName: line('which passage', 120),
});
export type ComparisonDraft = z.infer<typeof comparisonDraft>;

/** The zip that a whole comparison comes from. */
export const arrivingFile = z.object({
  fileName: z
    .string()
    .trim()
    .min(1, 'Choose a file.')
    .max(300, 'The file name is too long; shorten it.'),
});
export type ArrivingFile = z.infer<typeof arrivingFile>;

export const CONTEXTS = ['alone, raw', 'alone, processed', 'in the mix'] as const;

const level = (what: string, least: number, most: number, unit: string) => {
  const said = `${what} lies between ${least} and ${most} ${unit}.`;
  return z.number(said).min(least, said).max(most, said).nullable().default(null);
};

/** The rest of the question: what the plan is worked out from. Everything may stay open. */
export const brief = z.object({
  /** Average of the source at 1 m, dB SPL, and its peaks over that. */
  levelAt1MDb: level('The level at 1 m', 20, 150, 'dB'),
  crestDb: level('The peak over average', 3, 40, 'dB'),
  roomNoiseDba: level('The room noise', 0, 80, 'dBA'),
  temperatureC: level('The temperature', -10, 45, '°C'),
  contexts: z.array(z.enum(CONTEXTS)).default(['alone, raw']),
  budgetCents: z
    .int()
    .min(0, 'A budget cannot be negative.')
    .max(1_000_000_000, 'This budget is too high to be true.')
    .nullable()
    .default(null),
  mustHaves: z
    .array(line('the must-have', 120))
    .max(20, 'Twenty must-haves are enough.')
    .default([]),
  criteria: z
    .array(
      z.object({
        name: line('the criterion', 60),
        weight: z.int().min(1).max(5, 'Weights go from 1 to 5.'),
      }),
    )
    .max(20, 'Twenty criteria are enough.')
    .default([]),
  nullHypothesis: z
    .string()
    .trim()
    .max(500, 'Keep the null hypothesis under 500 characters.')
    .default(''),
  /** Of 100 judgements, how many one chain would have to win for the difference to matter. */
  smallestSharePct: level('The smallest difference', 51, 99, 'of 100'),
  prediction: z
    .object({
      favouriteChainId: z.uuid().nullable(),
      toldApart: z.enum(TOLD_APART).nullable(),
      remark: z.string().trim().max(500, 'Keep the prediction under 500 characters.'),
    })
    .default({ favouriteChainId: null, toldApart: null, remark: '' }),
  /** When the prediction was last changed; set by the bank, never by the writer. */
  predictedAt: z.string().nullable().default(null),
  overPeople: z.boolean().default(false),
  plosiveTest: z.boolean().default(false),
  headphoneMinutes: z.number().min(0).max(600, 'Ten hours are the most.').default(0),
});
export type Brief = z.infer<typeof brief>;

/** What is written down before anybody listens: the question itself, and all around it. */
export interface Written {
  question: string;
  brief: Brief;
}

/** A source as it is written down; without an id it is a new one. */
export const sourceDraft = z.object({
  id: uuid.nullable().default(null),
  name: line('the source', 120),
  passages: z.string().trim().max(300, 'Keep the passages under 300 characters.').default(''),
  capture: z.enum(CAPTURE_METHODS).default('at once'),
});
export type SourceDraft = z.infer<typeof sourceDraft>;

/** All of a comparison's sources, its own first. */
export const sourceDrafts = z
  .array(sourceDraft)
  .min(1, 'A comparison has at least one source.')
  .max(25, 'Twenty-four further sources are enough for one comparison.')
  .superRefine((sources, context) => {
    const lower = sources.map(({ name }) => name.toLowerCase());
    const twice = sources.find((_, i) => lower.indexOf(lower[i]!) < i);
    if (!twice) return;
    const message = `Two sources are called “${twice.name}”; give one of them another name.`;
    context.addIssue({ code: 'custom', message });
  });

export const comparisonChange = comparisonDraft.omit({ sourceName: true }).extend({
  brief: brief.optional(),
  sources: sourceDrafts.optional(),
  version: z.int(),
});
export type ComparisonChange = z.infer<typeof comparisonChange>;

/** Who or what is heard: every take, passage and line of the run sheet is of one. */
export interface Source {
  id: string;
  name: string;
  capture: CaptureMethod;
  /** Passages that are meant to be recorded, as they were written down. */
  passages: string;
}

export interface Comparison extends ComparisonDraft {
  id: string;
  brief: Brief;
  version: number;
  simulated: boolean;
}

export const comparisonQuery = listQueryOf(['newest', 'oldest', 'title']);
export type ComparisonQuery = z.infer<typeof comparisonQuery>;

/** A comparison as the list shows it. */
export type ListedComparison = Pick<
  Comparison,
  'id' | 'title' | 'sourceName' | 'passageName' | 'simulated'
> & { startedAt: Date };

/** A stretch of the music that is cut from every take of its source. */
export interface Passage {
  id: string;
  sourceId: string;
  sourceName: string;
  name: string;
  /** From whose takes it is cut: the performance, or a step of the test programme. */
  programme: ProgrammeId;
  /** Of that step: degrees, centimetres, which switch. */
  detail: string;
  fromS: number | null;
  toS: number | null;
}

export const ROOM_TEMPERATURE_C = 20;

/** How long a passage may be, seconds. */
export const PASSAGE_S = { least: 1, most: 60 };

const second = z.number().min(0).max(100_000);

const passageName = z.string().trim().min(1, 'Name the passage.').max(120);

export const newPassage = z.object({
  name: passageName,
  sourceId: uuid.nullable().default(null),
  programme: z
    .enum(PROGRAMME_IDS)
    .default('performance')
    .refine((id) => id !== 'backing', 'The backing track is no passage.'),
  detail: z.string().trim().max(120).default(''),
});
export type NewPassage = z.infer<typeof newPassage>;
/** As written by callers that leave the rest to its defaults. */
export type NewPassageInput = z.input<typeof newPassage>;

export const passageChange = z
  .object({ name: passageName.optional(), fromS: second.optional(), toS: second.optional() })
  .refine(({ fromS, toS }) => (fromS === undefined) === (toS === undefined), {
    message: 'A passage has a beginning and an end.',
  })
  .refine(
    ({ fromS, toS }) =>
      fromS === undefined ||
      toS === undefined ||
      (toS - fromS >= PASSAGE_S.least && toS - fromS <= PASSAGE_S.most),
    {
      message: `A passage lasts ${PASSAGE_S.least} to ${PASSAGE_S.most} s; 5 to 25 s make a good clip.`,
    },
  );
