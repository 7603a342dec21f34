'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { linkQuery, type PersonalLink, type SittingCounts } from '@/steps/sitting/schema';
import { type Found, FoundPicker } from '@/ui/FoundPicker';
import { Note } from '@/ui/Sheet';
import { ShownOnce } from '@/ui/ShownOnce';
import { token as colour } from '@/ui/tokens';
import { FEW, ListPages, SearchField } from '@/ui/lists';
import { useListRead } from '@/ui/useListRead';
import { useSend } from '@/ui/useSend';
import { SITTINGS } from '@/steps/sitting/endpoints';
import type { Ids } from '@/platform/endpoint';

function standing({ withdrawn, forgotten, joined }: PersonalLink): string {
  if (forgotten) return 'forgotten on request';
  if (withdrawn) return joined ? 'withdrawn; answers kept' : 'withdrawn';
  return joined ? 'has come' : 'not yet';
}

/** Links of single people of the panel: each holds a seat, and can be withdrawn or made anew. */
export function PersonalLinks({
  ids,
  listen,
  counts,
  panel,
}: {
  /** Address of the sitting's routes. */
  ids: Ids<typeof SITTINGS.addLinks.path>;
  /** Where listeners' links begin. */
  listen: string;
  counts: SittingCounts;
  /** How many people are on the panel. */
  panel: number;
}) {
  const { send, busy } = useSend();
  const [fresh, setFresh] = useState<readonly { name: string; link: string }[]>([]);
  const [chosen, setChosen] = useState<Found[]>([]);
  const list = useListRead(SITTINGS.links, ids, linkQuery.parse({}), counts);
  const { query, found, error, go, readAgain } = list;
  const links = list.rows ?? [];
  const ask = async () => {
    const panelistIds = chosen.map(({ id }) => id);
    const made = await send(SITTINGS.addLinks, ids, { panelistIds });
    if (!made) return;
    setFresh(made.links.map(({ alias, token }) => ({ name: alias, link: `${listen}/${token}` })));
    setChosen([]);
    readAgain();
  };
  const renew = async ({ id, alias }: PersonalLink) => {
    const made = await send(SITTINGS.renewLink, { ...ids, linkId: id });
    if (made) setFresh([{ name: alias, link: `${listen}/${made.token}` }]);
  };
  return (
    <>
      <Typography variant="h2" sx={{ mt: 4 }}>
        Links of their own
      </Typography>
      <Typography sx={{ color: colour('soft'), fontSize: '0.875rem', maxWidth: '76ch' }}>
        For one person of the panel each: it keeps a seat for them, counts the devices on which it
        is opened, and can be withdrawn.
      </Typography>
      {error && <Note kind="problem">{error.message}</Note>}
      {(found > FEW || query.q !== '') && <SearchField q={query.q} onSearch={(q) => go({ q })} />}
      {links.length > 0 && (
        <Table size="small" aria-label="Links of their own" sx={{ maxWidth: 760 }}>
          <TableBody>
            {links.map((link) => (
              <TableRow key={link.id}>
                <TableCell>{link.alias}</TableCell>
                <TableCell>{standing(link)}</TableCell>
                <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                  {!link.withdrawn && (
                    <Button
                      size="small"
                      aria-label={`New link for ${link.alias}`}
                      onClick={() => void renew(link)}
                    >
                      New link
                    </Button>
                  )}
                  {!link.forgotten && (
                    <Button
                      size="small"
                      aria-label={`${link.withdrawn ? 'Give back' : 'Withdraw'} the link of ${link.alias}`}
                      onClick={() =>
                        void send(
                          SITTINGS.changeLink,
                          { ...ids, linkId: link.id },
                          { withdrawn: !link.withdrawn },
                        ).then(readAgain)
                      }
                    >
                      {link.withdrawn ? 'Give back' : 'Withdraw'}
                    </Button>
                  )}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
      <ListPages found={found} page={query.page} onPage={(page) => go({ page })} />
      <ShownOnce links={fresh} />
      {panel > 0 && (
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mt: 1.5, maxWidth: 760 }}>
          <FoundPicker
            label="From the panel"
            from={SITTINGS.askable}
            ids={ids}
            value={chosen}
            onChange={setChosen}
          />
          <Button
            variant="outlined"
            disabled={busy || chosen.length === 0}
            onClick={() => void ask()}
          >
            Make links
          </Button>
        </Box>
      )}
      {panel === 0 && (
        <Typography sx={{ mt: 1, fontSize: '0.875rem' }}>
          Nobody is written down yet; add listeners at Panel.
        </Typography>
      )}
    </>
  );
}
