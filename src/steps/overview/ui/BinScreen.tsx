'use client';

import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useSnackbar } from 'notistack';
import { CHAINS } from '@/steps/chains/endpoints';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { GEAR } from '@/steps/gear/endpoints';
import { MATCH } from '@/steps/match/endpoints';
import { TAKES } from '@/steps/takes/endpoints';
import type { Bin } from '@/steps/overview/bin';
import type { BinRow } from '@/steps/overview/bin-store';
import { DataTable } from '@/ui/DataTable';
import { countWord, date } from '@/ui/format';
import { FEW, ListPages, SearchField, useList } from '@/ui/lists';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { useSend } from '@/ui/useSend';

const KINDS: Record<BinRow['kind'], string> = {
  comparison: 'comparison',
  chain: 'chain',
  gear: 'item of gear',
  take: 'take',
  source: 'source',
  passage: 'passage',
};

/** What was removed lately, each with the way back. */
export function BinScreen({ name, bin, days }: { name: string; bin: Bin; days: number }) {
  const { rows, query, found, all } = bin;
  const go = useList('/bin', query, { sort: 'newest' });
  const { send, busy } = useSend();
  const { enqueueSnackbar } = useSnackbar();
  const restore = async ({ kind, id, name: what, comparisonId }: BinRow) => {
    const asked = {
      comparison: () => send(COMPARISONS.restore, { id }),
      chain: () => send(CHAINS.restore, { id: comparisonId ?? '', chainId: id }),
      gear: () => send(GEAR.restore, { gearId: id }),
      take: () => send(TAKES.restore, { id: comparisonId ?? '', takeId: id }),
      source: () => send(COMPARISONS.restoreSource, { id: comparisonId ?? '', sourceId: id }),
      passage: () => send(MATCH.restorePassage, { id: comparisonId ?? '', passageId: id }),
    };
    if (await asked[kind]()) enqueueSnackbar(`${what} is back where it was.`);
  };
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="What this is">
            Comparisons, sources, passages, chains, takes and gear that were removed in the last{' '}
            {days} days. A chain’s takes come back with it, unless another chain has them by now; a
            take comes back with its remarks, and is laid in time anew; a passage comes back with
            takes where they were placed.
          </MarginNote>
          <MarginNote title="Nothing is erased">
            What was removed longer ago is not offered any more, but still lies in the bank and in
            its copies: answers depend on it. Only takes of which nothing was made are erased then,
            with their sound.
          </MarginNote>
        </>
      }
    >
      <PageHeading
        finding={all === 0 ? 'Nothing was removed' : `${countWord(all, 'thing')} removed`}
        aside={`In the last ${days} days.`}
      />
      {(all > FEW || query.q !== '') && <SearchField q={query.q} onSearch={(q) => go({ q })} />}
      {all > 0 && found === 0 && <Typography>Nothing here holds “{query.q}”.</Typography>}
      {found > 0 && (
        <DataTable
          label="What was removed"
          size="medium"
          rows={rows}
          keyOf={({ id }) => id}
          sorted={{ id: 'removed', desc: query.sort === 'newest' }}
          onSort={(_, desc) => go({ sort: desc ? 'newest' : 'oldest' })}
          columns={[
            { label: 'Name', names: true, cell: (row) => row.name },
            {
              label: 'What',
              cell: ({ kind, comparison }) =>
                comparison ? `${KINDS[kind]} of “${comparison}”` : KINDS[kind],
            },
            {
              label: 'Removed',
              id: 'removed',
              by: ({ deletedAt }) => deletedAt,
              mostFirst: true,
              sx: { whiteSpace: 'nowrap' },
              cell: ({ deletedAt }) => date(deletedAt),
            },
            {
              label: '',
              right: true,
              cell: (row) => (
                <Button
                  size="small"
                  disabled={busy}
                  aria-label={`Restore ${row.name}`}
                  onClick={() => void restore(row)}
                >
                  Restore
                </Button>
              ),
            },
          ]}
        />
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
    </StudioFrame>
  );
}
