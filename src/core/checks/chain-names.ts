import { guessChain } from './guess-chain';
import { stem, stepOfName } from './naming';

/** Which files a chain would get: one that is there already, by its index, or a new one, by its name. */
export interface ChainProposal {
  chain: number | null;
  name: string;
  /** Indices of the files. */
  files: number[];
}

const MOST_NAME = 80;
/** Between parts of a name; what stands for it while words are read. */
const GAP = '\n';
const TAKE = /\b(?:takes?|tk)[\s.#-]*\d{1,3}\b/gi;
/** A part that only counts or measures: "1", "t2", "90°", "30 cm", "(2)". */
const COUNT = /^[(#t]?\d{1,3}\)?\s*(?:°|deg|degrees|cm|db)?$/i;
const DATE = /^(?:19|20)\d{2}[.-]?\d{2}[.-]?\d{2}$/;

/** What of a file's name may name its chain: without take, step and its detail, source, date. */
function partsOf(fileName: string, sources: readonly string[]): string[] {
  const text = stem(fileName)
    .replace(/_+|\s+[–—-]\s+/g, GAP)
    .replace(TAKE, GAP);
  const known = new Set(sources.map((name) => name.toLowerCase()));
  const parts: string[] = [];
  for (const raw of text.split(GAP)) {
    const part = raw.trim().replace(/^[\s.,-]+|[\s.,-]+$/g, '');
    if (part === '' || known.has(part.toLowerCase()) || DATE.test(part)) continue;
    // A number by itself belongs to what stands before it, which was a step or a take.
    if (COUNT.test(part) || stepOfName(part) !== 'performance') continue;
    if (/^(?:un)?treated$|^performance$/i.test(part)) continue;
    parts.push(part);
  }
  return parts;
}

/**
 * Chains that file names speak of: parts that all names share (a project, a date) tell none apart and go, unless
 * nothing would be left.
 * @param sources names of what is heard, which name no chain
 * @param chains names of chains that are there already: what fits one of them is given to it
 */
export function proposedChains(
  fileNames: readonly string[],
  sources: readonly string[],
  chains: readonly string[],
): ChainProposal[] {
  const found = new Map<string, ChainProposal>();
  const put = (key: string, chain: number | null, name: string, file: number) => {
    const proposal = found.get(key) ?? { chain, name, files: [] };
    proposal.files.push(file);
    found.set(key, proposal);
  };
  const fresh: { file: number; parts: string[] }[] = [];
  for (const [file, fileName] of fileNames.entries()) {
    const chain = guessChain(fileName, chains);
    if (chain === null) fresh.push({ file, parts: partsOf(fileName, sources) });
    else put(`chain ${chain}`, chain, chains[chain]!, file);
  }
  const low = (part: string) => part.toLowerCase();
  const shared = new Set(
    (fresh[0]?.parts ?? [])
      .map(low)
      .filter((part) => fresh.every(({ parts }) => parts.some((one) => low(one) === part))),
  );
  const own = fresh.map(({ file, parts }) => ({
    file,
    parts: parts.filter((part) => !shared.has(low(part))),
  }));
  const told = own.every(({ parts }) => parts.length > 0) ? own : fresh;
  for (const { file, parts } of told) {
    const name = parts.join(' › ').slice(0, MOST_NAME).trim();
    if (name !== '') put(`name ${low(name)}`, null, name, file);
  }
  return [...found.values()];
}
