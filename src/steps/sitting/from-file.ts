import { ResultsFileError } from '@/core/statistics/csv-table';
import { parseResultsFile } from '@/core/statistics/results-file';
import { list } from '@/core/statistics/words';
import { TASKS } from '@/core/tasks';
import { type BroughtIn, broughtIn, type BroughtPart } from '@/core/tasks/brought-in';
import { sha256Hex } from '@/core/design/seal';
import { type Db, db, transaction } from '@/platform/database';
import { UserError } from '@/platform/errors';
import { record } from '@/platform/events/service';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import { comparisonOf } from '@/steps/comparisons/service';
import { CONTEXT_WORDS } from '@/steps/match/schema';
import { aliasKey } from './alias';
import { type Elsewhere, type ElsewhereTrial, keepElsewhere, MOST } from './answered-elsewhere';
import type { ResultsFileOrder, ResultsFilePreview } from './schema';
import { orderAnalysis, type ReadySet, readySets } from './service';
import { chainsOfSet, type KeyChain, sittingsOfFile } from './store';

const MOST_PARTS = 12;
const MOST_WORDS = { number: 60, length: 30 };

/** As names are compared that people typed. */
const plain = (name: string) => name.trim().toLowerCase();

/** A set that listeners can hear, with its chains by their plain names. */
interface KnownSet extends ReadySet {
  chains: Map<string, KeyChain>;
}

async function knownSets(from: Db, comparisonId: string): Promise<KnownSet[]> {
  const known = [];
  for (const set of await readySets(from, comparisonId)) {
    if (set.sameGain) continue;
    const own = await chainsOfSet(from, set.id);
    known.push({ ...set, chains: new Map(own.map((chain) => [plain(chain.name), chain])) });
  }
  return known;
}

const chainsIn = ({ listeners }: BroughtPart) => [
  ...new Set([...listeners.values()].flat().flatMap(({ chains }) => chains)),
];

const placeOf = ({ source, context }: BroughtPart) =>
  [source, context].filter(Boolean).join(', ') || 'a place without a name';

/** Which clips a part of the file means: of its source and context, or of the only source there is. */
function setFor(part: BroughtPart, sets: readonly KnownSet[]): KnownSet | string {
  const sources = new Set(sets.map(({ source }) => plain(source)));
  const alone = part.source === '' && sources.size === 1;
  const here = sets.filter(
    ({ source, context }) =>
      (alone || plain(source) === plain(part.source)) &&
      [context, CONTEXT_WORDS[context]].includes(plain(part.context) || 'raw'),
  );
  if (here.length === 0) {
    return `${placeOf(part)}: there are no matched clips of this source and context here; match them, or name it as it is named at Match`;
  }
  const missing = (set: KnownSet) => chainsIn(part).filter((name) => !set.chains.has(plain(name)));
  const whole = here.find((set) => missing(set).length === 0);
  return (
    whole ??
    `${placeOf(part)}: ${list(missing(here[0]!).map((name) => `“${name}”`))} is no chain of its clips; name chains as they are named here`
  );
}

/** What a sitting cannot hold. */
function tooMuch({ parts }: BroughtIn, names: readonly string[]): string[] {
  const long = names.filter((name) => name.length > MOST.name);
  const spelt = new Map<string, string>();
  const twice = names.filter((name) => {
    const earlier = spelt.get(aliasKey(name));
    spelt.set(aliasKey(name), earlier ?? name);
    return earlier !== undefined && earlier !== name;
  });
  return [
    ...(parts.length > MOST_PARTS
      ? [`it holds ${parts.length} tasks and places; a sitting has ${MOST_PARTS} parts at most`]
      : []),
    ...(names.length > MOST.listeners
      ? [`it holds ${names.length} listeners; a sitting holds ${MOST.listeners}`]
      : []),
    ...long.map((name) => `the name “${name.slice(0, MOST.name)}…” has over ${MOST.name} signs`),
    ...twice.map((name) => `“${name}” and “${spelt.get(aliasKey(name))}” look like one listener`),
    ...parts.flatMap((part) => {
      const most = Math.max(...[...part.listeners.values()].map(({ length }) => length));
      const wordy = part.words.filter(({ length }) => length > MOST_WORDS.length);
      return [
        ...(most > MOST.trials
          ? [`${placeOf(part)}: ${most} trials of one listener; ${MOST.trials} is the most`]
          : []),
        ...(part.words.length > MOST_WORDS.number
          ? [`${placeOf(part)}: ${part.words.length} words; ${MOST_WORDS.number} is the most`]
          : []),
        ...wordy.map((word) => `the word “${word.slice(0, MOST_WORDS.length)}…” is too long`),
      ];
    }),
  ];
}

/** What lies in a file, as far as a sitting can be made of it. */
interface Read {
  brought: BroughtIn;
  names: string[];
  faults: string[];
  remarks: string[];
}

function readFile(text: string): Read {
  try {
    const { observations, warnings, skipped } = parseResultsFile(new TextEncoder().encode(text));
    const brought = broughtIn(observations);
    const names = [...new Set(brought.parts.flatMap(({ listeners }) => [...listeners.keys()]))];
    const empty = brought.parts.length === 0 && brought.faults.length === 0;
    return {
      brought,
      names,
      faults: [
        ...brought.faults.map(({ message, answers }) => `${answers} rows: ${message}`),
        ...(empty ? ['nothing in it was judged'] : []),
      ],
      remarks: [
        ...warnings.map(({ message }) => message),
        ...(brought.leftOut > 0
          ? [
              `${brought.leftOut} rows are controls or were answered with names told; they are left out`,
            ]
          : []),
        ...(skipped.missing > 0 ? [`${skipped.missing} rows have no answer`] : []),
      ],
    };
  } catch (error) {
    if (!(error instanceof ResultsFileError)) throw error;
    const nothing = { parts: [], leftOut: 0, faults: [] };
    return { brought: nothing, names: [], faults: [error.message], remarks: [] };
  }
}

function elsewhereOf(
  { brought, names }: Read,
  sets: readonly KnownSet[],
  { title, name, text }: ResultsFileOrder,
  sha256: string,
  at: Date,
): Elsewhere {
  const trialsOf = (listener: string) =>
    brought.parts.flatMap((part, i) =>
      (part.listeners.get(listener) ?? []).map(({ chains, right, answer }): ElsewhereTrial => ({
        part: i + 1,
        // Under which words they were heard, the file does not say.
        slots: chains.map((chain, slot) => ({
          chainId: sets[i]!.chains.get(plain(chain))!.id,
          word: `${slot + 1}`,
        })),
        right,
        answer,
        remark: '',
      })),
    );
  return {
    title,
    from: { file: name, sha256, csv: Buffer.from(text, 'utf8') },
    begun: at,
    parts: brought.parts.map(({ task, words, listeners }, i) => ({
      task,
      clipSetId: sets[i]!.id,
      prompt: TASKS[task].prompt,
      tiesAllowed: TASKS[task].tiesOffered,
      trials: Math.max(...[...listeners.values()].map(({ length }) => length)),
      words: TASKS[task].asksWords ? words : [],
    })),
    listeners: names.map((listener) => ({ name: listener, trials: trialsOf(listener) })),
  };
}

/**
 * Looks at the results of another program, and imports them when asked to: as a closed sitting of its own, marked so
 * wherever it is read. Chains, sources and contexts are those of this comparison, by their names.
 * @throws UserError (422) when a file with faults is to be imported
 */
export async function importResults(
  engineer: SignedIn,
  comparisonId: string,
  order: ResultsFileOrder,
  at: Date,
): Promise<{ preview: ResultsFilePreview; sittingId: string | null }> {
  await comparisonOf(engineer, comparisonId);
  const read = readFile(order.text);
  const sets = await knownSets(db(), comparisonId);
  const found = read.brought.parts.map((part) => setFor(part, sets));
  const chosen = found.flatMap((set) => (typeof set === 'string' ? [] : [set]));
  const sha256 = await sha256Hex(order.text);
  const preview: ResultsFilePreview = {
    parts: read.brought.parts.map(({ task, listeners, ...place }) => ({
      task,
      heard: [place.source, place.context].filter(Boolean).join(', '),
      listeners: listeners.size,
      trials: [...listeners.values()].reduce((sum, { length }) => sum + length, 0),
    })),
    listeners: read.names.length,
    remarks: read.remarks,
    faults: [
      ...read.faults,
      ...tooMuch(read.brought, read.names),
      ...found.filter((set) => typeof set === 'string'),
    ],
    before: await sittingsOfFile(db(), comparisonId, sha256),
  };
  if (!order.apply) return { preview, sittingId: null };
  if (preview.faults.length > 0) {
    throw new UserError(
      422,
      `Nothing was imported: ${preview.faults[0]!}. The file stays as it is; correct it and choose it again.`,
    );
  }
  const elsewhere = elsewhereOf(read, chosen, order, sha256, at);
  const sittingId = await transaction(async (tx) => {
    const id = await keepElsewhere(tx, comparisonId, elsewhere, at);
    await orderAnalysis(tx, comparisonId, id, at);
    await announce(tx, comparisonId);
    const about = `“${order.title}” from ${order.name}, SHA-256 ${sha256}`;
    await record(tx, engineer, 'results brought in', { about, comparisonId }, at);
    return id;
  });
  return { preview, sittingId };
}
