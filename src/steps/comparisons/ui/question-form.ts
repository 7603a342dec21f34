import { z } from 'zod';
import { CAPTURE_METHODS } from '@/core/checks/set/set-check';
import { TOLD_APART } from '@/core/design/told-apart';
import {
  type Brief,
  brief,
  type Comparison,
  comparisonDraft,
  type Source,
  sourceDrafts,
} from '@/steps/comparisons/schema';
import { numberFault, readNumber, unmistakable } from '@/core/text/numbers';

/** A number as it is typed; empty is not known. */
const typed = z
  .string()
  .trim()
  .superRefine((text, context) => {
    const fault = text === '' ? null : numberFault(text);
    if (fault) context.addIssue({ code: 'custom', message: `${fault} Or leave it open.` });
  });

/** The question as the form holds it: text where people type. */
export const questionForm = comparisonDraft.extend({
  levelAt1MDb: typed,
  crestDb: typed,
  roomNoiseDba: typed,
  budget: typed,
  smallestSharePct: typed,
  headphoneMinutes: typed,
  contexts: z.array(z.string()),
  /** One to a line. */
  mustHaves: z.string(),
  capture: z.enum(CAPTURE_METHODS),
  temperatureC: typed,
  furtherSources: z.array(
    z.object({
      /** Empty for a new one. */
      sourceId: z.string(),
      name: z.string(),
      passages: z.string(),
      capture: z.enum(CAPTURE_METHODS),
    }),
  ),
  criteria: z.array(z.object({ name: z.string(), weight: z.string() })),
  nullHypothesis: z.string(),
  favouriteChainId: z.string(),
  toldApart: z.string(),
  predictionRemark: z.string(),
  overPeople: z.boolean(),
  plosiveTest: z.boolean(),
});
export type QuestionForm = z.infer<typeof questionForm>;

const text = (value: number | null) => (value === null ? '' : unmistakable(value));

export function formOf(comparison: Comparison, sources: readonly Source[]): QuestionForm {
  const [own, ...further] = sources;
  const { title, question, sourceName, passageName, brief: b } = comparison;
  return {
    title,
    question,
    sourceName,
    passageName,
    levelAt1MDb: text(b.levelAt1MDb),
    crestDb: text(b.crestDb),
    roomNoiseDba: text(b.roomNoiseDba),
    budget: text(b.budgetCents === null ? null : b.budgetCents / 100),
    smallestSharePct: text(b.smallestSharePct),
    headphoneMinutes: b.headphoneMinutes === 0 ? '' : String(b.headphoneMinutes),
    contexts: b.contexts,
    mustHaves: b.mustHaves.join('\n'),
    capture: own!.capture,
    temperatureC: text(b.temperatureC),
    furtherSources: further.map(({ id, ...rest }) => ({ sourceId: id, ...rest })),
    criteria: b.criteria.map(({ name, weight }) => ({ name, weight: String(weight) })),
    nullHypothesis: b.nullHypothesis,
    favouriteChainId: b.prediction.favouriteChainId ?? '',
    toldApart: b.prediction.toldApart ?? '',
    predictionRemark: b.prediction.remark,
    overPeople: b.overPeople,
    plosiveTest: b.plosiveTest,
  };
}

/** Sources as they go to the bank, the comparison's own first. */
export function draftsOf({ sourceName, capture, furtherSources }: QuestionForm, own: Source) {
  return sourceDrafts.safeParse([
    { ...own, name: sourceName, capture },
    ...furtherSources.map(({ sourceId, ...rest }) => ({ id: sourceId || null, ...rest })),
  ]);
}

/** What is written goes to the bank as this; whatever cannot be true is told by the shape. */
export function briefOf(form: QuestionForm, before: Brief) {
  const number = (value: string) => (value === '' ? null : readNumber(value));
  const budget = number(form.budget);
  const toldApart = TOLD_APART.find((word) => word === form.toldApart) ?? null;
  return brief.safeParse({
    ...before,
    levelAt1MDb: number(form.levelAt1MDb),
    crestDb: number(form.crestDb),
    roomNoiseDba: number(form.roomNoiseDba),
    budgetCents: budget === null ? null : Math.round(100 * budget),
    smallestSharePct: number(form.smallestSharePct),
    headphoneMinutes: number(form.headphoneMinutes) ?? 0,
    contexts: form.contexts,
    mustHaves: form.mustHaves
      .split('\n')
      .map((one) => one.trim())
      .filter(Boolean),
    temperatureC: number(form.temperatureC),
    criteria: form.criteria
      .filter(({ name }) => name.trim() !== '')
      .map(({ name, weight }) => ({ name, weight: Number(weight) })),
    nullHypothesis: form.nullHypothesis,
    prediction: {
      favouriteChainId: form.favouriteChainId || null,
      toldApart,
      remark: form.predictionRemark,
    },
    overPeople: form.overPeople,
    plosiveTest: form.plosiveTest,
  });
}
