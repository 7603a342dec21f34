import type { Drift, MovedBand } from '@/core/memory/drift';
import type { Outcome } from '@/core/memory/outcome';
import { hertz, signed } from '@/ui/format';

/** "contralto, quiet verse; alone, raw" */
export function placeWords({
  source,
  passage,
  context,
}: {
  source: string;
  passage: string;
  context: string;
}): string {
  return `${source}, ${passage}; ${context}`;
}

/** ", simulated listeners, exploratory": what is to be held against what was heard there; '' where nothing is. */
export function caveats({
  simulated,
  sealBroken,
  exploratory,
}: {
  simulated: boolean;
  sealBroken: boolean;
  exploratory: boolean;
}): string {
  return [
    simulated && ', simulated listeners',
    sealBroken && ', seal broken',
    exploratory && ', exploratory: names told after each part',
  ]
    .filter(Boolean)
    .join('');
}

/** How a chain came out, beside how many others. */
export function outcomeWords({
  outcome,
  leaders,
  chains,
}: {
  outcome: Outcome;
  leaders: number;
  chains: number;
}): string {
  switch (outcome) {
    case 'won':
      return `won among ${chains}`;
    case 'may be the best':
      return `one of ${leaders} that may be the best, among ${chains}`;
    case 'behind':
      return `behind, among ${chains}`;
    case 'nothing shown':
      return 'no preference shown';
  }
}

/** How often an item's chains came out in each way, in one line. */
export function storyFinding(
  name: string,
  places: number,
  outcomes: readonly { outcome: Outcome; times: number }[],
): string {
  if (places === 0) return `${name}: not heard by a panel yet`;
  const said: Record<Outcome, (times: number) => string> = {
    won: (times) => `won ${times}`,
    'may be the best': (times) => `may be the best in ${times}`,
    behind: (times) => `behind in ${times}`,
    'nothing shown': (times) => `nothing shown in ${times}`,
  };
  const told = outcomes.flatMap(({ outcome, times }) => (times > 0 ? [said[outcome](times)] : []));
  return `${name}, heard ${places === 1 ? 'once' : `${places} times`}: ${told.join(', ')}`;
}

const at = ({ centerHz, db }: MovedBand) => `${signed(db, 1, 'dB')} at ${hertz(centerHz)}`;
/** Bands that are named one by one. */
const MOST_NAMED = 4;

/** Within how much a test sound comes back, and how that is known. */
export function repeatsText({ repeatsDb, repeats }: Pick<Drift, 'repeatsDb' | 'repeats'>): string {
  const limit = `${repeatsDb.toFixed(1)} dB`;
  return repeats === 0
    ? `never played twice on one day, so ${limit} are taken for what it repeats to`
    : `repeats to ${limit} (played again ${repeats === 1 ? 'once' : `${repeats} times`})`;
}

/** How a day's test sound stands to the first one. */
export function driftText({ most, moved }: Drift['days'][number]): string {
  if (moved.length === 0) return `as it was, ${at(most)} at most`;
  const named = [...moved].sort((x, y) => Math.abs(y.db) - Math.abs(x.db)).slice(0, MOST_NAMED);
  const more = moved.length - named.length;
  return `moved: ${named.map(at).join(', ')}${more > 0 ? ` and ${more} more bands` : ''}`;
}
