import { PATTERN_NAMES } from '@/core/chain/specs';
import { guessChain } from './guess-chain';
import { PROGRAMME } from './programme';

/** What a file name says. */
export interface NameReading {
  /** Index of the chain, or null. */
  chain: number | null;
  /** Index of the source, or null for the first. */
  source: number | null;
  take: number | null;
  programme: string;
  detail: string;
}

export const PATTERN_FIELDS = ['chain', 'take', 'source', 'step', 'detail', 'anything'] as const;
export type PatternField = (typeof PATTERN_FIELDS)[number];

const FIELD = /\{([a-z]+)\}/g;
const MOST_PATTERN = 200;

/** Why a pattern cannot be used, in a sentence; null when it can. An empty one reads words freely. */
export function patternFault(pattern: string): string | null {
  if (pattern.length > MOST_PATTERN) return `Keep the pattern under ${MOST_PATTERN} characters.`;
  const fields = [...pattern.matchAll(FIELD)].map(([, name]) => name);
  if (pattern !== '' && fields.length === 0) {
    return 'A pattern holds at least one field, such as {chain}.';
  }
  const unknown = fields.find((name) => !PATTERN_FIELDS.some((field) => field === name));
  if (unknown) {
    return `There is no field {${unknown}}; fields are ${PATTERN_FIELDS.map((f) => `{${f}}`).join(', ')}.`;
  }
  const twice = fields.find((name, i) => name !== 'anything' && fields.indexOf(name) !== i);
  if (twice) return `The field {${twice}} stands twice.`;
  if (/\}\{/.test(pattern)) return 'Between two fields stands something that tells them apart.';
  return null;
}

/** Letters alike whatever their case, each as long as it was. */
function folded(text: string): string {
  return Array.from(text, (sign) => {
    const low = sign.toLowerCase();
    return low.length === sign.length ? low : sign;
  }).join('');
}

/**
 * The parts of a name by a pattern; null when the name is not of that shape. Each field takes as little as it
 * can, one sign at least, up to the text that follows it: read once from left to right, whatever the pattern.
 */
export function matchPattern(
  pattern: string,
  fileName: string,
): Partial<Record<PatternField, string>> | null {
  const name = stem(fileName);
  const low = folded(name);
  const [head = '', ...rest] = pattern.split(/\{([a-z]+)\}/);
  if (!low.startsWith(folded(head))) return null;
  const found: Partial<Record<PatternField, string>> = {};
  let at = head.length;
  for (let i = 0; i < rest.length; i += 2) {
    const after = folded(rest[i + 1]!);
    const last = i + 2 >= rest.length;
    const end = last ? low.length - after.length : low.indexOf(after, at + 1);
    if (end <= at || !low.startsWith(after, end)) return null;
    found[rest[i] as PatternField] = name.slice(at, end);
    at = end + after.length;
  }
  return at === name.length ? found : null;
}

/** A file's name without its ending. */
export function stem(fileName: string): string {
  return fileName.replace(/\.[^.]+$/, '');
}

/** Steps by words that stand in names; the first that fits. */
const STEP_WORDS: [RegExp, string][] = [
  [/resistor|dummy/i, 'resistor'],
  [/plosive/i, 'plosives'],
  [/knock|handling/i, 'knocks'],
  [/off.?axis/i, 'off-axis'],
  [/distance/i, 'distance'],
  [/\b(un)?treated/i, 'treatment'],
  [/speech/i, 'speech'],
  [/backing/i, 'backing'],
  [/silence|room.?tone|noise.?floor|(^|[\s.-])room(\s*\d+)?$/i, 'room'],
  [/steady.?noise/i, 'noise'],
  [/pink|test.?(tone|sound)|1.?khz/i, 'tone'],
  [/\bpattern\b/i, 'pattern'],
  [/switch|windscreen|pad\b|low.?cut/i, 'switch'],
];

/** The step of the test programme that words speak of; the performance when they speak of none. */
export function stepOfName(text: string): string {
  const words = text.replace(/_/g, ' ');
  const named = PROGRAMME.find(
    ({ id, label }) => words.toLowerCase() === id || words.toLowerCase() === label,
  );
  return named?.id ?? STEP_WORDS.find(([words_]) => words_.test(words))?.[1] ?? 'performance';
}

function readDetail(programme: string, text: string): string {
  if (programme === 'off-axis') {
    return (/axis\D{0,3}(\d{1,3})/i.exec(text) ?? /(\d{1,3})\s*(?:°|deg)/i.exec(text))?.[1] ?? '';
  }
  if (programme === 'distance') return /(\d{1,4})\s*cm/i.exec(text)?.[1] ?? '';
  if (programme === 'pattern') {
    const low = text.toLowerCase().replaceAll('-', ' ');
    const named = PATTERN_NAMES.filter((name) => low.includes(name.replaceAll('-', ' ')));
    // A supercardioid is a cardioid by its letters.
    return named.sort((a, b) => b.length - a.length)[0] ?? '';
  }
  if (programme === 'switch')
    return /windscreen|pad\b|low.?cut/i.exec(text)?.[0].toLowerCase() ?? '';
  if (programme === 'knocks')
    return /\b(stand|desk|boom|body)\b/i.exec(text)?.[0].toLowerCase() ?? '';
  if (programme === 'treatment') return /untreated/i.test(text) ? 'untreated' : 'treated';
  return '';
}

/** The number of the take that a file's name speaks of; null when it speaks of none. */
export function takeInName(fileName: string): number | null {
  const words = stem(fileName).replace(/_/g, ' ');
  return Number(/(?:take|\bt)\s*(\d{1,3})/i.exec(words)?.[1]) || null;
}

/** Reads a name by a pattern where it fits, and by its words where it does not. */
export function readName(
  fileName: string,
  pattern: string,
  chains: readonly string[],
  sources: readonly string[],
): NameReading {
  const fits = pattern !== '' && patternFault(pattern) === null;
  const parts = (fits ? matchPattern(pattern, fileName) : null) ?? {};
  const words = stem(fileName).replace(/_/g, ' ');
  const programme = stepOfName(parts.step ?? words);
  const take =
    parts.take === undefined ? takeInName(fileName) : Number(/\d+/.exec(parts.take)?.[0]);
  return {
    chain: guessChain(`${parts.chain ?? stem(fileName)}.x`, chains),
    source: guessChain(`${parts.source ?? stem(fileName)}.x`, sources),
    take: take || null,
    programme,
    detail: parts.detail ?? readDetail(programme, words),
  };
}
