'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import type { ChainsView } from '@/steps/chains/service';
import { money } from '@/ui/format';

const SHOWN = 4;

function List({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

/** The first few, and how many more there are. */
function Lines({ lines }: { lines: string[] }) {
  return (
    <>
      {lines.slice(0, SHOWN).map((line) => (
        <Typography key={line} sx={{ mt: 0.5, fontSize: '0.875rem' }}>
          {line}
        </Typography>
      ))}
      {lines.length > SHOWN && (
        <Typography sx={{ mt: 0.5, fontSize: '0.875rem' }}>
          And {lines.length - SHOWN} more like these.
        </Typography>
      )}
    </>
  );
}

/** What the set can prove, what it cannot, and which chains cost the same. */
export function FairnessPanel({ view }: { view: ChainsView }) {
  const { fairness, equalCost, setCost, budgetCents } = view;
  const { allCents, toBuyCents } = setCost;
  const over = budgetCents === null ? 0 : toBuyCents - budgetCents;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { md: '1fr 1fr' }, gap: 4, mt: 4 }}>
      <List title="Is it fair?">
        {fairness.unfair.length === 0 && fairness.fairPairs.length > 0 && (
          <Typography sx={{ fontSize: '0.875rem', mt: 0.5 }}>
            Every pair differs in one thing only, so what is heard can be laid to it.
          </Typography>
        )}
        <Lines
          lines={fairness.fairPairs.map(
            ({ a, b, what }) => `Only the ${what} changes between ${a} and ${b}.`,
          )}
        />
        <Box sx={{ mt: 1 }} />
        <Lines lines={fairness.unfair.map(({ text }) => text)} />
        {fairness.same.map(({ a, b }) => (
          <Typography key={`${a} ${b}`} sx={{ mt: 0.5, fontSize: '0.875rem' }}>
            Nothing differs between {a} and {b}: a check of the panel, or a slip.
          </Typography>
        ))}
        {fairness.unfair.length > 0 && fairness.missing.length > 0 && (
          <Typography sx={{ mt: 1, fontSize: '0.875rem' }}>
            A full grid would part their shares; it still lacks{' '}
            {fairness.missing
              .slice(0, SHOWN)
              .map(({ microphone, preamp }) => `${microphone} with ${preamp}`)
              .join(', ')}
            {fairness.missing.length > SHOWN ? ` and ${fairness.missing.length - SHOWN} more` : ''}.
          </Typography>
        )}
        {fairness.unfair.length > 0 && fairness.missing.length === 0 && (
          <Typography sx={{ mt: 1, fontSize: '0.875rem' }}>
            The grid is full: the share of each link can be told from all pairs together.
          </Typography>
        )}
      </List>
      <List title="What does it cost?">
        <Typography sx={{ mt: 0.5, fontSize: '0.875rem' }}>
          All of it, shared items counted once: {money(allCents)}.
          {toBuyCents < allCents &&
            ` Of that ${money(allCents - toBuyCents)} is owned, on loan or rented.`}
          {` To buy: ${money(toBuyCents)}`}
          {budgetCents === null
            ? '.'
            : over > 0
              ? `, ${money(over)} over the budget of ${money(budgetCents)}.`
              : `, within the budget of ${money(budgetCents)}.`}
        </Typography>
        <Lines
          lines={equalCost.map(
            ({ a, b, differenceCents }) =>
              `${a} and ${b} cost the same within ${money(differenceCents)}: what else is the money for?`,
          )}
        />
        {equalCost.length === 0 && (
          <Typography sx={{ mt: 0.5, fontSize: '0.875rem' }}>
            No two chains cost the same within 10 %.
          </Typography>
        )}
      </List>
    </Box>
  );
}
