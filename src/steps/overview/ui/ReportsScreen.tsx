'use client';

import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { onlyPlaceOf, type Role } from '@/platform/sign-in/roles';
import type { Reports } from '@/steps/overview/reports';
import { DataTable } from '@/ui/DataTable';
import { countWord, date } from '@/ui/format';
import { FEW, ListPages, SearchField, useList } from '@/ui/lists';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';

/** What panels found, for whoever reads and does nothing else. */
export function ReportsScreen({
  name,
  role,
  reports,
}: {
  name: string;
  role: Role;
  reports: Reports;
}) {
  const { rows, query, found, all } = reports;
  const go = useList('/reports', query, { sort: 'newest' });
  return (
    <StudioFrame
      name={name}
      only={onlyPlaceOf(role)}
      margin={
        <MarginNote title="What stands here">
          Sittings that are closed, each as one report with all of its results; it can be printed
          and taken along. What is still open is told to nobody.
        </MarginNote>
      }
    >
      <PageHeading
        finding={all === 0 ? 'No report yet' : countWord(all, 'report')}
        aside="What panels heard blind, and what was decided on it."
      />
      {(all > FEW || query.q !== '') && <SearchField q={query.q} onSearch={(q) => go({ q })} />}
      {all > 0 && found === 0 && <Typography>No report holds “{query.q}”.</Typography>}
      {found > 0 && (
        <DataTable
          label="Reports"
          size="medium"
          rows={rows}
          keyOf={({ sittingId }) => sittingId}
          sorted={{ id: 'closed', desc: query.sort === 'newest' }}
          onSort={(_, desc) => go({ sort: desc ? 'newest' : 'oldest' })}
          columns={[
            {
              label: 'Report',
              names: true,
              cell: ({ comparison, comparisonId, sittingId }) => (
                <Link
                  component={NextLink}
                  href={`/comparisons/${comparisonId}/report?sitting=${sittingId}`}
                >
                  {comparison}
                </Link>
              ),
            },
            { label: 'Sitting', cell: ({ title }) => title },
            {
              label: 'Closed',
              id: 'closed',
              by: ({ closedAt }) => closedAt,
              mostFirst: true,
              sx: { whiteSpace: 'nowrap' },
              cell: ({ closedAt }) => date(closedAt),
            },
          ]}
        />
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
    </StudioFrame>
  );
}
