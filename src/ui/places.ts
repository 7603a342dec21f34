import { searchWords } from '@/platform/search-words';

/** Somewhere to go, found by its name or by what is done there. */
export interface PlaceToGo {
  text: string;
  where: string;
  address: string;
}

/** Name, address, and further words under which somebody may look for it. */
type Named = readonly [text: string, address: string, words: string];

const STUDIO: readonly Named[] = [
  ['Comparisons', '/', 'list home'],
  ['New comparison', '/comparisons/new', 'start add question'],
  ['Gear', '/gear', 'microphones preamps import list'],
  ['Panel', '/panel', 'people listeners'],
  ['Decisions', '/decisions', 'decided chosen'],
  ['What panels heard', '/decisions/heard', 'memory voice won'],
  ['Comparisons set against each other', '/decisions/bridge', 'bridge reference memory'],
  ['Shortest bench for a voice', '/decisions/shortest', 'propose chains record memory cheap'],
  ['Training', '/training', 'ears practice threshold skill test hear'],
  ['Bench tools', '/bench', 'calculator noise impedance cost'],
  ['Reports', '/reports', 'results print read'],
  ['People', '/people', 'invite conductor engineer accounts'],
  ['Copies', '/copies', 'backup restore'],
  ['Bin', '/bin', 'removed deleted restore undo trash'],
  ['Log', '/log', 'events history audit'],
  ['Account', '/account', 'password settings'],
];

/** Of a comparison, after its address. */
const STEPS: readonly Named[] = [
  ['Question', 'question', 'edit source passage prediction'],
  ['Chains', 'chains', 'new chain grid gain'],
  ['Takes', 'takes', 'import upload record drop files'],
  ['Run sheet', 'run-sheet', 'stand print order'],
  ['Match', 'match', 'clips loudness align variants everything'],
  ['Sitting', 'sitting', 'new sitting plan seal open links'],
  ['Results', 'results', 'answers preferred'],
  ['Read sittings together', 'together', 'bridge joint'],
  ['Report', 'report', 'print pdf'],
  ['Decision', 'decision', 'decide marks must-haves'],
];

const COMPARISON = /^\/comparisons\/[0-9a-f-]{36}(?=\/|$)/;

/**
 * Places whose names, or what is done there, begin with all words that are typed; all places while nothing is.
 * @param path of the page that is open: a comparison's own places come first
 */
export function placesFound(typed: string, path: string): PlaceToGo[] {
  const wanted = searchWords(typed);
  const fits = ([text, , words]: Named) => {
    const own = searchWords(`${text} ${words}`);
    return wanted.every((word) => own.some((one) => one.startsWith(word)));
  };
  const [base] = COMPARISON.exec(path) ?? [];
  const steps = base
    ? STEPS.filter(fits).map(([text, address]) => ({
        text,
        where: 'of this comparison',
        address: `${base}/${address}`,
      }))
    : [];
  const studio = STUDIO.filter(fits).map(([text, address]) => ({ text, where: '', address }));
  return [...steps, ...studio];
}
