import type { GearDraft } from '@/steps/gear/schema';

/** A microphone of which nothing is known but its name. */
export function plainGear(name: string, change: Partial<GearDraft> = {}): GearDraft {
  return {
    name,
    kind: 'microphone',
    maker: '',
    specs: {},
    priceCents: null,
    ownership: 'owned',
    condition: '',
    notes: '',
    scores: {},
    accessoryIds: [],
    ...change,
  };
}
