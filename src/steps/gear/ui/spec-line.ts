import { fieldsOf } from '@/core/chain/kinds';
import type { Gear } from '@/steps/gear/schema';

const MINUS = '−';

/** What is known of an item, in one line with units. */
export function specLine({ kind, specs }: Pick<Gear, 'kind' | 'specs'>): string {
  const parts = fieldsOf(kind).flatMap(({ name, label, unit }) => {
    const value = specs[name];
    if (value === undefined) return [];
    if (typeof value === 'string') return [value];
    if (typeof value === 'number') {
      const number = String(value).replace('-', MINUS);
      return [`${label} ${number}${unit ? ` ${unit}` : ''}`];
    }
    const entries = value.map((entry) => {
      if (typeof entry !== 'object') return String(entry);
      if ('position' in entry) return `${entry.position}: ${entry.gainDb} dB`;
      const { pattern, ...figures } = entry;
      return `${pattern} ${Object.values(figures).join('/').replaceAll('-', MINUS)}`;
    });
    return name === 'patterns'
      ? [entries.join(', ')]
      : [`${label} ${entries.join(', ')} ${unit}`.trim()];
  });
  return parts.join(' · ');
}
