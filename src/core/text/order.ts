/** Names sorted by code point. */
export function sortedNames(names: Iterable<string>): string[] {
  return [...new Set(names)].sort(compareCodePoints);
}

function compareCodePoints(x: string, y: string): number {
  const [a, b] = [[...x], [...y]];
  for (let i = 0; i < Math.min(a.length, b.length); i++) {
    const difference = (a[i]!.codePointAt(0) ?? 0) - (b[i]!.codePointAt(0) ?? 0);
    if (difference !== 0) return difference;
  }
  return a.length - b.length;
}
