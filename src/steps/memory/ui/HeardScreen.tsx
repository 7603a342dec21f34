'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { HeardList } from '@/steps/memory/service';
import { placedText } from '@/steps/results/ui/placed-text';
import { DataTable } from '@/ui/DataTable';
import { countWord, date } from '@/ui/format';
import { FEW, ListPages, SearchField, useList } from '@/ui/lists';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { token } from '@/ui/tokens';
import { caveats, placeWords } from './place-words';

const PATH = '/decisions/heard';

function Leaders({ claimed, leaders, unit, chains }: HeardList['lines'][number]) {
  if (!claimed || leaders.length === 0) {
    return <Box sx={{ color: token('soft') }}>no preference shown among {chains}</Box>;
  }
  return (
    <>
      {leaders.map(({ chain, value, low, high }) => (
        <Box key={chain}>
          <b>{chain}</b> {placedText({ value, from: low, to: high }, unit)}
        </Box>
      ))}
      <Box sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
        {leaders.length === 1 ? `won among ${chains}` : `may be the best, among ${chains}`}
      </Box>
    </>
  );
}

/** What panels liked, on every voice and instrument that was ever heard. */
export function HeardScreen({ name, list }: { name: string; list: HeardList }) {
  const { lines, query, found, all } = list;
  const go = useList(PATH, query, { sort: 'newest' });
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="What this is">
            Every source, passage and context in which a panel was asked what it likes, over all
            comparisons: which chain won there, or which may be the best.
          </MarginNote>
          <MarginNote title="Of each alone">
            Figures are of one panel on one source. They are not to be set against those of another
            comparison, which had other listeners or other takes.
          </MarginNote>
        </>
      }
    >
      <PageHeading
        finding={
          all === 0
            ? 'No panel has liked anything yet'
            : `${countWord(all, 'place')} heard by panels`
        }
        aside="Search for a voice, a passage, a chain or a word of the question."
        action={
          <>
            <Link
              component={NextLink}
              href={`/decisions/shortest${query.q && `?q=${encodeURIComponent(query.q)}`}`}
            >
              Shortest bench for a voice
            </Link>{' '}
            <Box component="span" sx={{ color: token('soft') }}>
              ·
            </Box>{' '}
            <Link component={NextLink} href="/decisions/bridge">
              Comparisons set against each other
            </Link>{' '}
            <Box component="span" sx={{ color: token('soft') }}>
              ·
            </Box>{' '}
            <Link component={NextLink} href="/decisions">
              What was decided
            </Link>
          </>
        }
      />
      {(all > FEW || query.q !== '') && <SearchField q={query.q} onSearch={(q) => go({ q })} />}
      {all > 0 && found === 0 && (
        <Typography>
          Nothing that was heard holds “{query.q}”.{' '}
          <Link underline="always" component={NextLink} href={PATH}>
            Show all
          </Link>
        </Typography>
      )}
      {all === 0 && (
        <Typography sx={{ maxWidth: '60ch' }}>
          When a sitting is closed, every place in which chains were liked or not is kept here, for
          the next voice of its kind.
        </Typography>
      )}
      {found > 0 && (
        <DataTable
          label="What was heard"
          size="medium"
          rows={lines}
          keyOf={({ sittingId, part }) => `${sittingId} ${part}`}
          sorted={{ id: 'closed', desc: query.sort === 'newest' }}
          onSort={(_, desc) => go({ sort: desc ? 'newest' : 'oldest' })}
          columns={[
            {
              label: 'Where',
              names: true,
              sx: { verticalAlign: 'top' },
              cell: (line) => (
                <>
                  <Link
                    component={NextLink}
                    href={`/comparisons/${line.comparisonId}/results?sitting=${line.sittingId}`}
                    sx={{ fontWeight: 600 }}
                  >
                    {placeWords(line)}
                  </Link>
                  <Box sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
                    {line.title}
                    {caveats(line)}
                  </Box>
                </>
              ),
            },
            {
              label: 'Which was liked',
              sx: { verticalAlign: 'top' },
              cell: (line) => <Leaders {...line} />,
            },
            {
              label: 'Listeners',
              right: true,
              sx: { verticalAlign: 'top' },
              cell: ({ listeners }) => listeners,
            },
            {
              label: 'Closed',
              id: 'closed',
              by: ({ closedAt }) => closedAt,
              mostFirst: true,
              sx: { verticalAlign: 'top', whiteSpace: 'nowrap' },
              cell: ({ closedAt }) => date(closedAt),
            },
          ]}
        />
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
    </StudioFrame>
  );
}
