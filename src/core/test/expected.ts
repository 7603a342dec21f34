/** A reference case: what a program must give, and how near. */
export interface Spec {
  /** By path of the field, the longest that fits counts; "*" for all others. */
  tolerance: Record<string, { abs: number; rel: number }>;
  expect: Record<string, unknown> & { warnings: string[] };
}

/** What names an entry of a list, so that its order does not matter. */
const KEYS = [
  ['source', 'context', 'task'],
  ['a', 'b', 'task'],
  ['a', 'b'],
  ['factor', 'level'],
  ['chain'],
  ['listener'],
  ['word'],
  ['factor'],
  ['side'],
  ['role'],
];
/** Lists whose order counts. */
const ORDERED = new Set(['interactions', 'predictions.entries', 'bridge.rating.drift']);
const BAND = 'Band';

const plainPath = (at: string) => at.replace(/\[[^\]]*\]/g, '');

function toleranceAt(at: string, { tolerance }: Spec): { abs: number; rel: number } {
  for (let path = plainPath(at); path; path = path.split('.').slice(0, -1).join('.')) {
    const own = tolerance[path];
    if (own) return own;
  }
  return tolerance['*']!;
}

function outside(bands: [number, number][], got: unknown, at: string): string[] {
  const values = (Array.isArray(got) ? got : [got]) as number[];
  return bands.flatMap(([low, high], i) =>
    values[i]! >= low && values[i]! <= high ? [] : [`${at}: ${values[i]} out of ${low} … ${high}`],
  );
}

/** Every disagreement between what is wanted and what came, with its path. */
export function disagreements(want: unknown, got: unknown, at: string, spec: Spec): string[] {
  if (typeof want === 'number') {
    const { abs, rel } = toleranceAt(at, spec);
    const near = typeof got === 'number' && Math.abs(got - want) <= abs + rel * Math.abs(want);
    return near ? [] : [`${at}: want ${want}, got ${String(got)}`];
  }
  if (Array.isArray(want)) {
    if (!Array.isArray(got) || got.length !== want.length) return [`${at}: another length`];
    const key = ORDERED.has(plainPath(at))
      ? undefined
      : KEYS.find((names) => want.every((w) => w && names.every((n) => n in Object(w))));
    return want.flatMap((w: unknown, i) => {
      const same = (g: Record<string, unknown>) =>
        key?.every((n) => g[n] === (w as Record<string, unknown>)[n]);
      const match: unknown = key ? got.find(same) : got[i];
      return disagreements(w, match, `${at}[${i}]`, spec);
    });
  }
  if (want !== null && typeof want === 'object') {
    const inner = (got ?? {}) as Record<string, unknown>;
    return Object.entries(want).flatMap(([name, value]) => {
      const path = at ? `${at}.${name}` : name;
      if (!name.endsWith(BAND)) return disagreements(value, inner[name], path, spec);
      const bands = (Array.isArray((value as unknown[])[0]) ? value : [value]) as [
        number,
        number,
      ][];
      return outside(bands, inner[name.slice(0, -BAND.length)], path);
    });
  }
  return want === got ? [] : [`${at}: want ${String(want)}, got ${String(got)}`];
}
