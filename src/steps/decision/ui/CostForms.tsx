import Box from '@mui/material/Box';
import type { DecisionView } from '@/steps/decision/service';
import { DataTable } from '@/ui/DataTable';
import { money } from '@/ui/format';
import { token } from '@/ui/tokens';
import { rentedText, sumText, usedText } from './words';

const sum = (cents: number | undefined) => (cents ? money(cents) : '–');

/** What each chain costs in every form in which it can be had. */
export function CostForms({ view: { chains } }: { view: DecisionView }) {
  return (
    <>
      <DataTable
        label="Cost in every form"
        wide
        rows={chains}
        keyOf={({ id }) => id}
        columns={[
          { label: 'Chain', names: true, cell: ({ name }) => name },
          { label: 'Owned', right: true, cell: ({ facts }) => sum(facts.forms?.ownedCents) },
          { label: 'Lent to us', right: true, cell: ({ facts }) => sum(facts.forms?.lentCents) },
          { label: 'To buy', right: true, cell: ({ facts }) => sumText(facts.toBuyCents, facts) },
          { label: 'the same used', cell: ({ facts }) => usedText(facts) },
          { label: 'the same rented', cell: ({ facts }) => rentedText(facts) },
          { label: 'In all', right: true, cell: ({ facts }) => sumText(facts.allCents, facts) },
        ]}
      />
      <Box sx={{ color: token('soft'), fontSize: '0.8125rem', mt: 0.5 }}>
        Accessories are in it. A price that was quoted in another currency counts at the rate that
        was written with it in the gear list.
      </Box>
    </>
  );
}
