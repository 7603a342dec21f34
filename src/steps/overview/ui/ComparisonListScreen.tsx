'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { ComparisonList } from '@/steps/overview/service';
import { DataTable } from '@/ui/DataTable';
import { countWord, date } from '@/ui/format';
import { FEW, ListPages, SearchField, useList } from '@/ui/lists';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, Note, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { token } from '@/ui/tokens';
import { ImportComparison } from './ImportComparison';

function findingOf({ query, found, all }: ComparisonList): string {
  if (all === 0) return 'No question asked yet';
  const counted = countWord(all, 'comparison');
  return query.q === '' ? counted : `${found} of ${counted.toLowerCase()}`;
}

export function ComparisonListScreen({
  name,
  list,
  worries,
}: {
  name: string;
  list: ComparisonList;
  /** What an owner has to see to: copies that are old, or do not come back. */
  worries: string[];
}) {
  const { lines, query, found, all } = list;
  const go = useList('/', query, { sort: 'newest' });
  const start = (
    <Button component={NextLink} href="/comparisons/new" variant="contained">
      Start a comparison
    </Button>
  );
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="What this is">
            A bank for your panel’s minutes: plan a comparison of chains, match its clips, let
            people listen blind, and read what their answers can carry.
          </MarginNote>
          <MarginNote title="Next">
            {all === 0 ? 'Start your first line.' : 'Open one, or start another.'}
          </MarginNote>
          <MarginNote title="Removed something?">
            <Link component={NextLink} href="/bin">
              See what can be restored
            </Link>
          </MarginNote>
        </>
      }
    >
      <PageHeading
        finding={findingOf(list)}
        action={
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
            <ImportComparison />
            {all > 0 && start}
          </Box>
        }
      />
      {worries.length > 0 && (
        <Note kind="caution">
          {worries.join(' ')}{' '}
          <Link underline="always" component={NextLink} href="/copies">
            See to the copies
          </Link>
        </Note>
      )}
      {(all > FEW || query.q !== '') && <SearchField q={query.q} onSearch={(q) => go({ q })} />}
      {all > 0 && found === 0 && (
        <Typography>
          No comparison holds “{query.q}”; its title, its question and who is heard were looked
          through.{' '}
          <Link underline="always" component={NextLink} href="/">
            Show all
          </Link>
        </Typography>
      )}
      {all === 0 ? (
        <Box sx={{ maxWidth: '60ch' }}>
          <Typography gutterBottom>
            A comparison is one concrete question: for this voice, this passage and this money,
            which chain? You bring one take per chain as a WAV file; Zeitbank makes them equally
            loud and asks your panel without telling it what it hears.
          </Typography>
          <Typography sx={{ color: token('soft'), mb: 2.5 }}>
            To look around first, stop this and run <code>./zeitbank demo</code>: it brings a
            made-up studio with everything in it.
          </Typography>
          {start}
        </Box>
      ) : (
        found > 0 && (
          <DataTable
            label="Comparisons"
            size="medium"
            rows={lines}
            keyOf={({ id }) => id}
            sorted={{
              id: query.sort === 'title' ? 'title' : 'started',
              desc: query.sort === 'newest',
            }}
            onSort={(id, desc) =>
              go({ sort: id === 'title' ? 'title' : desc ? 'newest' : 'oldest' })
            }
            columns={[
              {
                label: 'Question',
                id: 'title',
                by: ({ title }) => title,
                cell: (line) => (
                  <>
                    <Link
                      component={NextLink}
                      href={`/comparisons/${line.id}`}
                      sx={{ fontWeight: 600 }}
                    >
                      {line.title}
                    </Link>
                    <Box sx={{ color: token('soft') }}>
                      {line.sourceName}, {line.passageName}
                      {line.simulated && ' · simulated'}
                    </Box>
                  </>
                ),
              },
              {
                label: 'Started',
                id: 'started',
                by: ({ startedAt }) => startedAt,
                mostFirst: true,
                cell: ({ startedAt }) => date(startedAt),
              },
              { label: 'Chains', cell: ({ chains }) => chains, right: true },
              { label: 'Listeners', cell: ({ listeners }) => listeners, right: true },
              { label: 'Answers', cell: ({ answers }) => answers, right: true },
              { label: 'Next', cell: ({ next }) => next },
            ]}
          />
        )
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
    </StudioFrame>
  );
}
