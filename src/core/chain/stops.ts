import type { GearItem } from './item';
import type { ItemSettings } from './specs';

/**
 * What must not be plugged in as it is planned: phantom power on anywhere in the chain of a passive ribbon. A wrong
 * cable or a short while plugging puts 48 V across the ribbon, and nothing that stands between keeps it away, unless
 * it is a booster that lives on phantom itself and passes none on.
 * @returns a sentence that names both, null where nothing is in the way
 */
export function phantomStop(
  chain: string,
  items: readonly { gear: GearItem; settings: ItemSettings }[],
): string | null {
  const ribbon = items.find(
    ({ gear }) => gear.kind === 'microphone' && gear.specs.type === 'ribbon',
  );
  const powered = items.find(({ settings }) => settings.phantom === true);
  if (!ribbon || !powered) return null;
  const between = items.slice(items.indexOf(ribbon) + 1, items.indexOf(powered));
  const fed = between.some(
    ({ gear }) => gear.kind === 'booster' && gear.specs.powering === 'phantom',
  );
  if (fed) return null;
  const where = powered === ribbon ? 'for it' : `at ${powered.gear.name}`;
  return `Stop: ${chain} holds the passive ribbon ${ribbon.gear.name}, and phantom power is on ${where}. It can destroy the ribbon; switch it off in the chain, and keep to the maker’s papers.`;
}
