import { bracketOf, equalCostPairs } from '@/core/chain/cost';
import { readNumber } from '@/core/text/numbers';
import type { Tool } from './tool';

const MOST_LINES = 40;

/** "name = price" to a line; lines that are no such thing are passed over. */
function chainsOf(text: string): { name: string; cents: number }[] {
  return text
    .split('\n')
    .slice(0, MOST_LINES)
    .flatMap((line) => {
      const [name, price] = line.split('=') as [string, string];
      const value = readNumber(price ?? '');
      return name.trim() === '' || value === null || value < 0 || value > 1e7
        ? []
        : [{ name: name.trim(), cents: Math.round(100 * value) }];
    });
}

export const cost: Tool = {
  id: 'cost',
  title: 'Cost brackets',
  about:
    'Into which bracket each chain falls, and which could stand against each other for the same money.',
  fields: [
    {
      name: 'chains',
      label: 'Chains, “name = price” to a line',
      usual:
        'Plain mic, good preamp = 1340\nGood mic, plain preamp = 1290\nBoth plain = 420\nBoth good = 2210',
      lines: true,
    },
    { name: 'tolerance', label: 'Counts as equal within, %', usual: '10', range: [0, 100] },
  ],
  formulas: [
    'equal cost: |a − b| ≤ tolerance · the dearer of both; a total holds mounts, clips and supplies',
  ],
  answer(value, word) {
    const chains = chainsOf(word('chains'));
    const pairs = equalCostPairs(
      chains.map(({ cents }) => cents),
      value('tolerance') / 100,
    );
    const [closest] = pairs;
    return {
      finding:
        chains.length === 0
          ? 'Write one chain to a line, with its price after “=”.'
          : closest
            ? `${chains[closest.a]!.name} and ${chains[closest.b]!.name} cost the same within ${(closest.differenceCents / 100).toFixed(0)} €.`
            : 'No two of them cost the same.',
      lines: chains.map(({ name, cents }) => [
        name,
        `${(cents / 100).toFixed(0)} €, ${bracketOf(cents)}`,
      ]),
      figure: {
        x: '',
        y: 'price in all, €',
        categories: chains.map(({ name }) => name),
        curves: [
          { name: 'price', points: chains.map(({ cents }, i) => [i, cents / 100] as const) },
        ],
      },
    };
  },
};
