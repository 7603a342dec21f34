import { z } from 'zod';
import { type DecisionDraft, EVIDENCE, VERDICTS } from '@/steps/decision/schema';
import type { DecisionView } from '@/steps/decision/service';
import { placeName } from './words';

/** A decision as it is begun: the newest one, else a line for each place with what the table says. */
export function draftOf({
  locked,
  places,
  chains,
  cheapest,
  sitting,
}: DecisionView): DecisionDraft {
  const [newest] = locked;
  if (newest) {
    const { uses, reasons, wouldChange, decidedBy } = newest.record;
    const there = new Set(chains.map(({ id }) => id));
    return {
      uses: uses.map(({ use, verdict, chainId }) => ({
        use,
        verdict,
        chainId: chainId !== null && there.has(chainId) ? chainId : null,
      })),
      reasons: [...reasons],
      wouldChange,
      decidedBy,
      listenAgain: null,
    };
  }
  const chosen = chains.find(({ name }) => name === cheapest)?.id ?? null;
  const uses = places.length > 0 ? places.map(placeName) : [''];
  return {
    uses: uses.map((use) => ({
      use: use === 'heard blind' ? '' : use,
      verdict: 'chosen',
      chainId: chosen,
    })),
    reasons: [{ text: '', rests: sitting ? 'heard' : 'by ear alone' }],
    wouldChange: '',
    decidedBy: '',
    listenAgain: null,
  };
}

/** What was begun and not locked, as it lies on a device. */
const kept = z.object({
  /** Which version it would become the next of. */
  version: z.int(),
  at: z.string(),
  draft: z.object({
    uses: z
      .array(
        z.object({ use: z.string(), verdict: z.enum(VERDICTS), chainId: z.string().nullable() }),
      )
      .min(1),
    reasons: z.array(z.object({ text: z.string(), rests: z.enum(EVIDENCE) })).min(1),
    wouldChange: z.string(),
    decidedBy: z.string(),
    listenAgain: z.string().nullable().default(null),
  }),
});
export type KeptDraft = z.infer<typeof kept>;

/** Where one person's draft for one comparison lies. */
export const draftKey = (comparisonId: string, name: string) => `decision ${comparisonId} ${name}`;

/**
 * A draft as it was left; null where there is none, where it cannot be read, or where a version was locked since.
 * @param text as it lies there
 */
export function keptDraft(text: string | null, { locked, chains }: DecisionView): KeptDraft | null {
  if (text === null) return null;
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return null;
  }
  const found = kept.safeParse(value).data;
  if (!found || found.version !== (locked[0]?.record.version ?? 0)) return null;
  const there = new Set(chains.map(({ id }) => id));
  const uses = found.draft.uses.map((use) => ({
    ...use,
    chainId: use.chainId !== null && there.has(use.chainId) ? use.chainId : null,
  }));
  return { ...found, draft: { ...found.draft, uses } };
}
