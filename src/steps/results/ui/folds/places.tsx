import type { Interaction, Place } from '@/core/statistics/reading/interactions';
import { ALPHA, list } from '@/core/statistics/words';
import { DataTable } from '@/ui/DataTable';
import { Method, pColumn, signed } from '../sections/cells';
import type { Fold, FoldProps } from './fold';

const named = ({ source, context }: Place, { varies }: Interaction) =>
  varies === 'source' ? `${source}, ${context}` : `${context}, ${source}`;

function inWords({ pHolm, topChanged }: Interaction): string {
  if (pHolm === null) return 'cannot be tested';
  if (pHolm >= ALPHA) return 'no change of order shown';
  return topChanged ? 'the order turns' : 'strengths move, the first place does not';
}

/** Chains that gain and lose most. */
function moves({ shifts }: Interaction): string {
  const sorted = [...shifts].sort((x, y) => y.shift - x.shift);
  const [up, down] = [sorted[0], sorted[sorted.length - 1]];
  if (!up || !down || up === down) return '–';
  return `${up.chain} ${signed(up.shift)}, ${down.chain} ${signed(down.shift)}`;
}

function Between({ across: { interactions } }: FoldProps) {
  return (
    <>
      <DataTable
        wide
        label="Between places"
        rows={interactions}
        keyOf={({ task, first, second }) => JSON.stringify([task, first, second])}
        columns={[
          { label: 'From', cell: (one) => named(one.first, one) },
          { label: 'To', cell: (one) => named(one.second, one) },
          { label: 'Listeners', cell: ({ listeners }) => listeners, right: true },
          pColumn('pHolm'),
          {
            label: 'Orders alike, τ',
            cell: ({ tauB }) => tauB?.toFixed(2) ?? '–',
            by: ({ tauB }) => tauB,
            right: true,
          },
          { label: 'In words', cell: inWords },
          { label: 'Gains and loses most', cell: moves },
        ]}
      />
      <Method>
        Block test on what each listener gives a chain in the second place less what they give it in
        the first, over listeners who judged everything in both, corrected for all tests of its kind
        (Holm). τ is 1 where both places order the chains alike, −1 where they order them the other
        way round. A small p beside a τ near 1 is a matter of spread, not of order.
      </Method>
    </>
  );
}

export const places: Fold = {
  id: 'places',
  title({ across: { interactions, picture } }) {
    if (interactions.length === 0) return null;
    const open = picture.map(({ place }) => place).filter(Boolean);
    return `Between places: ${list(open)}`;
  },
  View: Between,
};
