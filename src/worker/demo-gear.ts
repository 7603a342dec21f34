import type { SignedIn } from '@/platform/sign-in/service';
import { gearDraft } from '@/steps/gear/schema';
import { addGear } from '@/steps/gear/service';
import { GEAR } from '../../demo/gear';

/** Puts the made-up gear into the list. @returns ids by name */
export async function seedGear(engineer: SignedIn, at: Date): Promise<Map<string, string>> {
  const ids = new Map<string, string>();
  // Accessories first, so that others can name them.
  const inOrder = [...GEAR].sort(
    (a, b) => Number(b.kind === 'accessory') - Number(a.kind === 'accessory'),
  );
  for (const item of inOrder) {
    const draft = gearDraft.parse({
      name: item.name,
      kind: item.kind,
      maker: item.maker,
      specs: item.specs ?? {},
      priceCents: 100 * item.price,
      prices: item.prices ?? {},
      ownership: item.ownership ?? 'owned',
      condition: item.condition ?? '',
      notes: item.notes ?? '',
      scores: item.marks ?? {},
      accessoryIds: (item.accessories ?? []).map((name) => ids.get(name)),
    });
    ids.set(item.name, await addGear(engineer, draft, at, true));
  }
  return ids;
}
