const LONGEST = 80;

/** A name as every file system takes it: what might mean something to one becomes a line. */
export function fileName(text: string): string {
  const plain = text
    .replace(/[^\p{L}\p{N} .,_+-]+/gu, '-')
    .replace(/\s+/g, ' ')
    .replace(/^[ .-]+|[ .-]+$/g, '')
    .slice(0, LONGEST)
    .trim();
  return plain === '' ? 'unnamed' : plain;
}

/** Gives each of several the same name once: the second one is “name (2)”, whatever the case. */
export function uniqueNames(): (name: string) => string {
  const taken = new Set<string>();
  return (name) => {
    const dot = name.lastIndexOf('.');
    const [stem, end] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, ''];
    let own = name;
    for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${stem} (${n})${end}`;
    taken.add(own.toLowerCase());
    return own;
  };
}
