const MOST = 80;

/**
 * Names of elsewhere beside those that are taken here: one that is free stays as it is.
 * @param taken in lower case
 */
export function freeNames(taken: readonly string[]): (name: string) => string {
  const used = new Set(taken);
  return (name) => {
    for (let n = 0; ; n++) {
      const word = n === 0 ? '' : n === 1 ? ' (elsewhere)' : ` (elsewhere ${n})`;
      const made = `${name.slice(0, MOST - word.length)}${word}`;
      if (used.has(made.toLowerCase())) continue;
      used.add(made.toLowerCase());
      return made;
    }
  };
}
