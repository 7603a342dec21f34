'use client';

import { ALPHA } from '@/core/statistics/words';
import { type Column, DataTable } from '@/ui/DataTable';
import { Method, pColumn } from './cells';
import type { ViewProps } from './view';

export function AttributesView({
  results: { attributes: words },
  chains: all,
  claimed,
}: ViewProps) {
  if (words.length === 0) return null;
  const chains = all.filter((chain) => chain in words[0]!.counts);
  const rows = [...words].sort((x, y) => (x.p ?? 1) - (y.p ?? 1));
  return (
    <>
      <DataTable
        wide
        label="Words"
        rows={rows}
        keyOf={({ word }) => word}
        columns={[
          {
            label: 'Word',
            cell: ({ word }) => word,
            by: ({ word }) => word,
            sxOf: ({ pHolm }) => ({
              fontWeight: claimed && pHolm !== null && pHolm < ALPHA ? 600 : 400,
            }),
          },
          ...chains.map((chain): Column<(typeof rows)[number]> => ({
            label: chain,
            id: `of ${chain}`,
            cell: ({ counts }) => counts[chain],
            by: ({ counts }) => counts[chain],
            mostFirst: true,
            right: true,
          })),
          pColumn('pHolm'),
        ]}
      />
      <Method>
        How often each word was ticked for each chain. Cochran’s test per word over the listeners
        who described every chain, corrected for {words.length} words (Holm).
      </Method>
    </>
  );
}
