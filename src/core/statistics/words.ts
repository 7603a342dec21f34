/** The level of every test. */
export const ALPHA = 0.05;

/** A p-value as it is usually written. */
export function pText(p: number): string {
  if (p < 0.001) return 'p\u00a0<\u00a00.001';
  return `p\u00a0=\u00a0${p.toFixed(p < 0.1 ? 3 : 2)}`;
}

export function percent(share: number): string {
  return `${Math.round(100 * share)} %`;
}

export function list(names: readonly string[], joint: 'and' | 'or' = 'and'): string {
  if (names.length < 2) return names.join('');
  return `${names.slice(0, -1).join(', ')} ${joint} ${names[names.length - 1]}`;
}
