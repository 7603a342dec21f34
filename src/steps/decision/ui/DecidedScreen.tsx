'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TableSortLabel from '@mui/material/TableSortLabel';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import type { DecidedLine, DecidedList } from '@/steps/decision/service';
import { placedText } from '@/steps/results/ui/placed-text';
import { countWord, date } from '@/ui/format';
import { FEW, ListPages, SearchField, useList } from '@/ui/lists';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { token } from '@/ui/tokens';

function Uses({ uses }: { uses: DecidedLine['uses'] }) {
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
      />
      {(all > FEW || query.q !== '') && <SearchField q={query.q} onSearch={(q) => go({ q })} />}
      {all > 0 && found === 0 && (
        <Typography>
          No decision holds “{query.q}”.{' '}
          <Link component={NextLink} href="/decisions">
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
        <Table aria-label="Decisions">
          <TableHead>
            <TableRow>
              <TableCell>Comparison</TableCell>
              <TableCell>What for which use</TableCell>
              <TableCell sortDirection={query.sort === 'newest' ? 'desc' : 'asc'}>
                <TableSortLabel
                  active
                  direction={query.sort === 'newest' ? 'desc' : 'asc'}
                  onClick={() => go({ sort: query.sort === 'newest' ? 'oldest' : 'newest' })}
                >
                  Decided
                </TableSortLabel>
              </TableCell>
              <TableCell>Listen again</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {lines.map((line) => (
              <TableRow key={line.comparisonId}>
                <TableCell sx={{ verticalAlign: 'top' }}>
                  <Link
                    component={NextLink}
                    href={`/comparisons/${line.comparisonId}/decision`}
                    sx={{ fontWeight: 600 }}
                  >
                    {line.title}
                  </Link>
                  {line.simulated && <Box sx={{ color: token('soft') }}>simulated listeners</Box>}
                </TableCell>
                <TableCell sx={{ verticalAlign: 'top' }}>
                  <Uses uses={line.uses} />
                </TableCell>
                <TableCell sx={{ verticalAlign: 'top', whiteSpace: 'nowrap' }}>
                  {date(line.at)}
                </TableCell>
                <TableCell
                  sx={{
                    verticalAlign: 'top',
                    whiteSpace: 'nowrap',
                    color: line.due ? token('ochre') : undefined,
                  }}
                >
                  {line.listenAgain ? date(line.listenAgain) : '–'}
                  {line.due && ', due'}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
    </StudioFrame>
  );
}
