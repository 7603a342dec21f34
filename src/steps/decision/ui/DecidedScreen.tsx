'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { DecidedLine, DecidedList } from '@/steps/decision/service';
import { placedText } from '@/steps/results/ui/placed-text';
import { DataTable } from '@/ui/DataTable';
import { countWord, date } from '@/ui/format';
import { FEW, ListPages, SearchField, useList } from '@/ui/lists';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { token } from '@/ui/tokens';

/** What was decided for which use, and how the chain was liked. */
export function Uses({ uses }: { uses: DecidedLine['uses'] }) {
  return uses.map(({ use, verdict, chain, heard }) => (
    <Box key={`${use} ${verdict} ${chain}`} sx={{ mb: 0.75 }}>
      <b>{use}</b>: {chain && `${chain}, `}
      {verdict}
      {heard.length > 0 && (
        <Box sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
          {heard.map((one, i) => (
            <span key={one.place}>
              {i > 0 && '; '}
              {`${one.place} ${placedText(one, one.unit)}`.trim()}
              {one.leads && ', may be the best there'}
            </span>
          ))}
        </Box>
      )}
    </Box>
  ));
}

/** What the studio decided, over all comparisons. */
export function DecidedScreen({ name, list }: { name: string; list: DecidedList }) {
  const { lines, query, found, all } = list;
  const go = useList('/decisions', query, { sort: 'newest' });
  const due = lines.filter((line) => line.due).length;
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="What this is">
            The newest decision of every comparison: which chain for which voice, and how it was
            liked by the panel that heard it.
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
            ? 'Nothing is decided yet'
            : `${countWord(all, 'decision')}${due > 0 ? `, ${due} to listen to again` : ''}`
        }
        aside="Search for a voice, a use, a chain or a word of the reasons."
        action={
          <Link component={NextLink} href="/decisions/heard">
            What panels heard
          </Link>
        }
      />
      {(all > FEW || query.q !== '') && <SearchField q={query.q} onSearch={(q) => go({ q })} />}
      {all > 0 && found === 0 && (
        <Typography>
          No decision holds “{query.q}”.{' '}
          <Link underline="always" component={NextLink} href="/decisions">
            Show all
          </Link>
        </Typography>
      )}
      {all === 0 && (
        <Typography sx={{ maxWidth: '60ch' }}>
          A comparison ends with a decision: what was heard blind beside marks, must-haves and
          prices, locked with its reasons. What is decided is found here again, for the next voice
          of its kind.
        </Typography>
      )}
      {found > 0 && (
        <DataTable
          label="Decisions"
          size="medium"
          rows={lines}
          keyOf={({ comparisonId }) => comparisonId}
          sorted={{ id: 'decided', desc: query.sort === 'newest' }}
          onSort={(_, desc) => go({ sort: desc ? 'newest' : 'oldest' })}
          columns={[
            {
              label: 'Comparison',
              sx: { verticalAlign: 'top' },
              cell: (line) => (
                <>
                  <Link
                    component={NextLink}
                    href={`/comparisons/${line.comparisonId}/decision`}
                    sx={{ fontWeight: 600 }}
                  >
                    {line.title}
                  </Link>
                  {line.simulated && <Box sx={{ color: token('soft') }}>simulated listeners</Box>}
                </>
              ),
            },
            {
              label: 'What for which use',
              sx: { verticalAlign: 'top' },
              cell: ({ uses }) => <Uses uses={uses} />,
            },
            {
              label: 'Decided',
              id: 'decided',
              by: ({ at }) => at,
              mostFirst: true,
              sx: { verticalAlign: 'top', whiteSpace: 'nowrap' },
              cell: ({ at }) => date(at),
            },
            {
              label: 'Listen again',
              sxOf: ({ due }) => ({
                verticalAlign: 'top',
                whiteSpace: 'nowrap',
                color: due ? token('ochre') : undefined,
              }),
              cell: ({ listenAgain, due }) =>
                `${listenAgain ? date(listenAgain) : '–'}${due ? ', due' : ''}`,
            },
          ]}
        />
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
    </StudioFrame>
  );
}
