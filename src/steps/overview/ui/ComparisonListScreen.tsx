'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TableSortLabel from '@mui/material/TableSortLabel';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import type { ComparisonList } from '@/steps/overview/service';
import { countWord, date } from '@/ui/format';
import { FEW, ListPages, SearchField, useList } from '@/ui/lists';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { token } from '@/ui/tokens';

function findingOf({ query, found, all }: ComparisonList): string {
  if (all === 0) return 'No question asked yet';
  const counted = countWord(all, 'comparison');
  return query.q === '' ? counted : `${found} of ${counted.toLowerCase()}`;
}

export function ComparisonListScreen({ name, list }: { name: string; list: ComparisonList }) {
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
        </>
      }
    >
      <PageHeading finding={findingOf(list)} action={all > 0 ? start : undefined} />
      {(all > FEW || query.q !== '') && <SearchField q={query.q} onSearch={(q) => go({ q })} />}
      {all > 0 && found === 0 && (
        <Typography>
          No comparison holds “{query.q}”; its title, its question and who is heard were looked
          through.{' '}
          <Link component={NextLink} href="/">
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
          <Table aria-label="Comparisons">
            <TableHead>
              <TableRow>
                <TableCell sortDirection={query.sort === 'title' ? 'asc' : false}>
                  <TableSortLabel
                    active={query.sort === 'title'}
                    onClick={() => go({ sort: 'title' })}
                  >
                    Question
                  </TableSortLabel>
                </TableCell>
                <TableCell
                  sortDirection={
                    query.sort === 'newest' ? 'desc' : query.sort === 'oldest' ? 'asc' : false
                  }
                >
                  <TableSortLabel
                    active={query.sort !== 'title'}
                    direction={query.sort === 'oldest' ? 'asc' : 'desc'}
                    onClick={() => go({ sort: query.sort === 'newest' ? 'oldest' : 'newest' })}
                  >
                    Started
                  </TableSortLabel>
                </TableCell>
                <TableCell align="right">Chains</TableCell>
                <TableCell align="right">Listeners</TableCell>
                <TableCell align="right">Answers</TableCell>
                <TableCell>Next</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {lines.map((line) => (
                <TableRow key={line.id}>
                  <TableCell>
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
                  </TableCell>
                  <TableCell>{date(line.startedAt)}</TableCell>
                  <TableCell align="right">{line.chains}</TableCell>
                  <TableCell align="right">{line.listeners}</TableCell>
                  <TableCell align="right">{line.answers}</TableCell>
                  <TableCell>{line.next}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        )
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
    </StudioFrame>
  );
}
