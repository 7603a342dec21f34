import chardet from 'chardet';

/** How text of a file may be written down. */
export const ENCODINGS = [
  ['utf-8', 'UTF-8'],
  ['windows-1252', 'Windows-1252 (Western Europe)'],
  ['windows-1250', 'Windows-1250 (Central Europe)'],
  ['utf-16le', 'UTF-16, little end first'],
  ['utf-16be', 'UTF-16, big end first'],
  ['macintosh', 'Macintosh'],
] as const;
export type Encoding = (typeof ENCODINGS)[number][0];

const MARKS: [number[], Encoding][] = [
  [[0xef, 0xbb, 0xbf], 'utf-8'],
  [[0xff, 0xfe], 'utf-16le'],
  [[0xfe, 0xff], 'utf-16be'],
];

/** Names of the detection that mean one of ours; what is within another is that one. */
const KNOWN: Record<string, Encoding> = {
  'UTF-8': 'utf-8',
  ASCII: 'utf-8',
  'ISO-8859-1': 'windows-1252',
  'windows-1252': 'windows-1252',
  'ISO-8859-2': 'windows-1250',
  'windows-1250': 'windows-1250',
  'UTF-16LE': 'utf-16le',
  'UTF-16BE': 'utf-16be',
};

const isUtf8 = (bytes: Uint8Array): boolean => {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
};

/** Every second byte of Latin text in 16 bits is zero. */
function wideWithoutMark(bytes: Uint8Array): Encoding | null {
  const part = bytes.subarray(0, 4096);
  const zeros = [0, 1].map(
    (from) => part.filter((byte, i) => i % 2 === from && byte === 0).length / (part.length / 2),
  );
  if (zeros[1]! > 0.4) return 'utf-16le';
  return zeros[0]! > 0.4 ? 'utf-16be' : null;
}

/** Which encoding a file seems to have; text that is UTF-8 throughout is taken for that. */
export function encodingOf(bytes: Uint8Array): Encoding {
  const marked = MARKS.find(([mark]) => mark.every((byte, i) => bytes[i] === byte));
  if (marked) return marked[1];
  const wide = wideWithoutMark(bytes);
  if (wide) return wide;
  if (isUtf8(bytes)) return 'utf-8';
  const found = chardet.analyse(bytes).find(({ name }) => name in KNOWN && name !== 'UTF-8');
  return found ? KNOWN[found.name]! : 'windows-1252';
}

/** The text of a file, without the mark that some begin with. */
export function textOf(bytes: Uint8Array, encoding: Encoding): string {
  return new TextDecoder(encoding).decode(bytes).replace(/^\ufeff/, '');
}

/** The text of a file as it seems to be written. */
export async function readTextFile(file: Blob): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  return textOf(bytes, encodingOf(bytes));
}
