'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { ACTION_IDS, ACTIONS } from '@/platform/events/actions';
import type { EventQuery } from '@/platform/events/schema';
import type { EventList } from '@/platform/events/service';
import { DataTable } from './DataTable';
import { countWord, day } from './format';
import { ListPages, SearchField, useList } from './lists';
import { NextLink } from './NextLink';
import { MarginNote, Note, PageHeading } from './Sheet';
import { StudioFrame } from './StudioFrame';
import { FACES, token } from './tokens';

const EVERY = 'all';

function Log({ list }: { list: EventList }) {
  const { lines, query, found, all, fault } = list;
  const usual: Partial<EventQuery> = { sort: 'newest', action: '' };
  const go = useList('/log', query, usual);
  return (
    <>
      <PageHeading
        finding={
          fault === null
            ? `${countWord(all, 'entry', 'entries')}, and none was changed`
            : `Entry ${fault} is not as it was written`
        }
        aside="Who sealed, broke, closed, heard by name, took out, forgot, let in. Nothing in it can be changed or taken away."
        action={
          <Button variant="outlined" href="/api/log">
            Export
          </Button>
        }
      />
      {fault !== null && (
        <Note kind="problem">
          The number of entry {fault} does not come out of its text, or it does not follow the one
          before: somebody changed the database by hand. What stands before it holds.
        </Note>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 2 }}>
        <SearchField q={query.q} onSearch={(q) => go({ q })} />
        <TextField
          select
          label="What"
          value={query.action || EVERY}
          onChange={({ target }) =>
            go({ action: ACTION_IDS.find((one) => one === target.value) ?? '' })
          }
          sx={{ width: 320, mb: 2 }}
        >
          <MenuItem value={EVERY}>everything</MenuItem>
          {ACTION_IDS.map((id) => (
            <MenuItem key={id} value={id}>
              {ACTIONS[id]}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {found === 0 ? (
        <Typography>
          {all === 0 ? 'Nothing has happened yet.' : 'No entry fits this.'}{' '}
          {all > 0 && (
            <Link component={NextLink} href="/log" underline="always">
              Show all
            </Link>
          )}
        </Typography>
      ) : (
        <DataTable
          label="Log"
          rows={lines}
          keyOf={({ n }) => String(n)}
          sorted={{ id: 'when', desc: query.sort === 'newest' }}
          onSort={(_, desc) => go({ sort: desc ? 'newest' : 'oldest' })}
          columns={[
            { label: 'No.', right: true, cell: ({ n }) => n },
            {
              label: 'When',
              id: 'when',
              by: ({ n }) => n,
              mostFirst: true,
              sx: { whiteSpace: 'nowrap' },
              cell: ({ at }) => day(at),
            },
            {
              label: 'Who and what',
              names: true,
              cell: ({ by, action }) => (
                <>
                  <b>{by}</b> {ACTIONS[action]}
                </>
              ),
            },
            {
              label: 'Of what',
              sx: { overflowWrap: 'anywhere' },
              cell: ({ about, comparisonId }) =>
                comparisonId === null ? (
                  about
                ) : (
                  <Link component={NextLink} href={`/comparisons/${comparisonId}`}>
                    {about || 'the comparison'}
                  </Link>
                ),
            },
            {
              label: 'SHA-256',
              sx: { fontFamily: FACES.mono, fontSize: '0.75rem', color: token('soft') },
              cell: ({ sha256 }) => <span title={sha256}>{sha256.slice(0, 12)}</span>,
            },
          ]}
        />
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
    </>
  );
}

/** What matters, as it happened; list null for whoever is not the owner. */
export function LogScreen({ name, list }: { name: string; list: EventList | null }) {
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="What stands here">
            What decides whether results can be believed, and who could come in. Not every click: a
            name that was typed, a take that was moved are not in it.
          </MarginNote>
          <MarginNote title="Why it holds">
            Each entry holds the SHA-256 of the one before it. All are read through whenever this
            page is opened; in the exported file anybody can do the same.
          </MarginNote>
        </>
      }
    >
      {list === null ? (
        <PageHeading
          finding="The owner of this Zeitbank reads its log"
          aside="Ask them for what you need to know."
        />
      ) : (
        <Log list={list} />
      )}
    </StudioFrame>
  );
}
