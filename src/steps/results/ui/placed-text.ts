import type { PicturePlace, PlacedChain } from '@/steps/results/across';

/** "72 (60 to 82) %" */
export function placedText(
  { value, from, to }: Pick<PlacedChain, 'value' | 'from' | 'to'>,
  unit: PicturePlace['unit'],
): string {
  if (value === null) return 'no strength';
  const interval = from === null || to === null ? '' : ` (${from.toFixed(0)} to ${to.toFixed(0)})`;
  return `${value.toFixed(0)}${interval} ${unit === 'share' ? '%' : 'points'}`;
}
