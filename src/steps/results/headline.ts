import type { ResultPart } from './service';

/** The primary part's finding heads the page; in sittings of before, that of the first pairs. */
export function headlineOf(parts: readonly ResultPart[]): string {
  const leading =
    parts.find(({ primary }) => primary) ??
    parts.find(({ analysis }) => analysis.results.pair) ??
    parts[0]!;
  return leading.findings.headline;
}
