import type { Outcome } from '@/core/memory/outcome';

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
