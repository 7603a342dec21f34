import { MILD_PROCESSING, NO_PROCESSING } from '@/core/processing/settings';
import { DEFAULT_TONE_MATCH } from '@/core/spectrum/tone-match';
import type { CONTEXTS, Passage } from '@/steps/comparisons/schema';
import { type ClipSet, CONTEXT_KINDS, type ContextOrder } from '@/steps/match/schema';

type Kind = ContextOrder['kind'];
export type ContextChoices = Record<Kind, ContextOrder>;

/** What each context was last ordered with, else a mild start. */
export function choicesFrom(sets: ClipSet[]): ContextChoices {
  const last = (kind: Kind) => sets.find(({ context }) => context === kind)?.recipe.context;
  const defaults: ContextChoices = {
    raw: { kind: 'raw' },
    alike: { kind: 'alike', settings: MILD_PROCESSING },
    tailored: { kind: 'tailored', settings: {} },
    mix: { kind: 'mix', balanceDb: 0 },
    toned: { kind: 'toned', settings: DEFAULT_TONE_MATCH },
  };
  return Object.fromEntries(
    CONTEXT_KINDS.map((kind) => [kind, last(kind) ?? defaults[kind]]),
  ) as ContextChoices;
}

/**
 * In which contexts the question wants to hear the chains; in the mix only where there is a backing track, and a
 * step of the test programme raw alone.
 */
export function wantedKinds(
  contexts: readonly (typeof CONTEXTS)[number][],
  hasBacking: boolean,
  { programme }: Pick<Passage, 'programme'>,
): Kind[] {
  if (programme !== 'performance') return ['raw'];
  const kinds: Kind[] = contexts.includes('alone, processed') ? ['raw', 'alike'] : ['raw'];
  return hasBacking && contexts.includes('in the mix') ? [...kinds, 'mix'] : kinds;
}

/** Chains that a tailored context has no settings for yet stay as they are. */
export function completed(context: ContextOrder, chains: readonly { id: string }[]): ContextOrder {
  if (context.kind !== 'tailored') return context;
  return {
    kind: 'tailored',
    settings: Object.fromEntries(
      chains.map(({ id }) => [id, context.settings[id] ?? NO_PROCESSING]),
    ),
  };
}
