import type { ChainItem } from '@/core/chain/item';
import { gearKind } from '@/core/chain/kinds';
import { numberFault, readNumber } from '@/core/text/numbers';
import { type ChainDraft, chainDraft, type ChainShape } from '@/steps/chains/schema';

/** A chain as it is typed: numbers are text until it is kept. */
export interface ChainValues<Item extends ChainItem = ChainItem> {
  name: string;
  remarks: string;
  /** €, where no gear is named. */
  price: string;
  /** cm */
  distance: string;
  /** degrees */
  angle: string;
  shape: ChainShape;
  gear: Item[];
}

/** What a chain of these items is called unless somebody names it. */
export function usualName(items: readonly ChainItem[]): string {
  return items
    .filter(({ gear }) => gearKind(gear.kind).namesChain)
    .map(({ gear }) => gear.name)
    .join(' › ')
    .slice(0, 80);
}

/** A number that was typed; null for nothing. */
const typed = (text: string) => (text.trim() === '' ? null : readNumber(text));

/** Field of the form in which a part of the draft is typed. */
const FIELDS: Record<string, keyof ChainValues> = {
  name: 'name',
  items: 'remarks',
  priceCents: 'price',
  distanceM: 'distance',
  angleDeg: 'angle',
  shape: 'shape',
  gear: 'gear',
};

/** What is kept of what was typed, or what is wrong, by field. */
export function chainOf(
  values: ChainValues,
): { draft: ChainDraft } | { faults: Partial<Record<keyof ChainValues, string>> } {
  const { name, remarks, price, distance, angle, shape, gear } = values;
  const faults: Partial<Record<keyof ChainValues, string>> = {};
  for (const [field, text] of Object.entries({ price, distance, angle })) {
    const fault = text.trim() === '' ? null : numberFault(text, null);
    if (fault) faults[field as 'price' | 'distance' | 'angle'] = fault;
  }
  if (Object.keys(faults).length > 0) return { faults };
  const [euros, cm] = [typed(price), typed(distance)];
  const draft = chainDraft.safeParse({
    name: name.trim() === '' ? usualName(gear) : name,
    items: remarks,
    priceCents: euros === null ? null : Math.round(100 * euros),
    distanceM: cm === null ? null : cm / 100,
    angleDeg: typed(angle),
    shape,
    gear: gear.map(({ gear: { id }, settings }) => ({ gearId: id, settings })),
  });
  if (draft.success) return { draft: draft.data };
  for (const { path, message } of draft.error.issues) {
    const field = FIELDS[String(path[0])] ?? 'gear';
    faults[field] ??= message;
  }
  return { faults };
}
