'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { PeopleView } from '@/platform/sign-in/people';
import { canBeLimited, INVITED, type InvitedRole, mayDo, ROLES } from '@/platform/sign-in/roles';
import { HOUSE } from '@/platform/endpoints';
import { countWord, day } from './format';
import { ShownDialog } from './ShownDialog';
import { MarginNote, Note, PageHeading } from './Sheet';
import { StudioFrame } from './StudioFrame';
import { FACES } from './tokens';
import { useCopy } from './useCopy';
import { useSend } from './useSend';

/** Invites one more person; the link is shown once. */
function InviteForm({ origin }: { origin: string }) {
  const { send, busy } = useSend();
  const copy = useCopy();
  const [meantFor, setMeantFor] = useState('');
  const [role, setRole] = useState<InvitedRole>('engineer');
  const [limited, setLimited] = useState(false);
  const [link, setLink] = useState<string | null>(null);
  const invite = async () => {
    const made = await send(
      HOUSE.invite,
      {},
      { role, limited: limited && canBeLimited(role), meantFor },
    );
    if (!made) return;
    setLink(`${origin}/invitation/${made.token}`);
    setMeantFor('');
  };
  return (
    <>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'center', mt: 1 }}>
        <TextField
          label="For whom"
          size="small"
          sx={{ width: 260 }}
          value={meantFor}
          onChange={({ target }) => setMeantFor(target.value)}
          slotProps={{ htmlInput: { maxLength: 80 } }}
        />
        <TextField
          select
          label="As"
          size="small"
          value={role}
          onChange={({ target }) => setRole(target.value as InvitedRole)}
          sx={{ width: 280 }}
        >
          {INVITED.map((value) => (
            <MenuItem key={value} value={value}>
              {ROLES[value].offered}
            </MenuItem>
          ))}
        </TextField>
        {canBeLimited(role) && (
          <FormControlLabel
            control={
              <Checkbox checked={limited} onChange={({ target }) => setLimited(target.checked)} />
            }
            label="some comparisons only"
          />
        )}
        <Button
          variant="contained"
          disabled={busy || meantFor.trim() === ''}
          onClick={() => void invite()}
        >
          Make an invitation
        </Button>
      </Box>
      {link && (
        <Note kind="plain">
          Send this link; it is shown only now, makes one account, and lasts a week.
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', mt: 0.5 }}>
            <Box component="span" sx={{ fontFamily: FACES.mono, overflowWrap: 'anywhere' }}>
              {link}
            </Box>
            <Button size="small" variant="outlined" onClick={() => void copy(link)}>
              Copy
            </Button>
          </Box>
        </Note>
      )}
    </>
  );
}

/** Who may sign in; view null for whoever is not the owner. */
export function PeopleScreen({
  name,
  view,
  origin,
}: {
  name: string;
  view: PeopleView | null;
  origin: string;
}) {
  const { send } = useSend();
  const [looked, setLooked] = useState<{ accountId: string; name: string } | null>(null);
  return (
    <StudioFrame
      name={name}
      margin={
        <MarginNote title="Roles">
          Engineers share gear, panel and all or some comparisons with the owner. Conductors run
          rooms and are shown no chain. Readers have results and reports of what is closed, and
          change nothing. Listeners have no account; they use links.
        </MarginNote>
      }
    >
      <PageHeading
        finding={
          view
            ? `${countWord(view.people.filter(({ endedAt }) => !endedAt).length, 'person', 'people')} may sign in`
            : 'Only the owner lets people in or out'
        }
        aside="Who works here. Access that is ended stops at once; what somebody did stays."
      />
      {view && (
        <>
          <Table size="small" aria-label="People" sx={{ maxWidth: 900 }}>
            <TableHead>
              <TableRow>
                <TableCell>Name</TableCell>
                <TableCell>Role</TableCell>
                <TableCell>Comparisons</TableCell>
                <TableCell>Signed in last</TableCell>
                <TableCell />
              </TableRow>
            </TableHead>
            <TableBody>
              {view.people.map(
                ({ accountId, name: person, role, limited, shown, endedAt, lastSignIn }) => (
                  <TableRow key={accountId}>
                    <TableCell>{person}</TableCell>
                    <TableCell>{endedAt ? `${role}, ended ${day(endedAt)}` : role}</TableCell>
                    <TableCell>
                      {mayDo(role, 'read')
                        ? limited
                          ? countWord(shown, 'comparison')
                          : 'all'
                        : 'none'}
                      {canBeLimited(role) && (
                        <Button
                          size="small"
                          sx={{ ml: 1 }}
                          aria-label={`Change what ${person} sees`}
                          onClick={() => setLooked({ accountId, name: person })}
                        >
                          Change
                        </Button>
                      )}
                    </TableCell>
                    <TableCell>{lastSignIn ? day(lastSignIn) : 'not yet'}</TableCell>
                    <TableCell align="right">
                      {role !== 'owner' && (
                        <Button
                          size="small"
                          aria-label={`${endedAt ? 'Let in again' : 'End access'}: ${person}`}
                          onClick={() =>
                            void send(
                              HOUSE.setAccess,
                              { accountId },
                              {
                                allowed: endedAt !== null,
                              },
                            )
                          }
                        >
                          {endedAt ? 'Let in again' : 'End access'}
                        </Button>
                      )}
                    </TableCell>
                  </TableRow>
                ),
              )}
              {view.invitations.map(({ id, meantFor, role, limited, expiresAt }) => (
                <TableRow key={id}>
                  <TableCell>{meantFor}</TableCell>
                  <TableCell>{role}, invited</TableCell>
                  <TableCell>
                    {mayDo(role, 'read') ? (limited ? 'none at first' : 'all') : 'none'}
                  </TableCell>
                  <TableCell>may come until {day(expiresAt)}</TableCell>
                  <TableCell align="right">
                    <Button
                      size="small"
                      aria-label={`Withdraw the invitation of ${meantFor}`}
                      onClick={() => void send(HOUSE.withdraw, { invitationId: id })}
                    >
                      Withdraw
                    </Button>
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
          <Typography variant="h2" sx={{ mt: 4 }}>
            Ask somebody in
          </Typography>
          <InviteForm origin={origin} />
          {looked && <ShownDialog {...looked} onClose={() => setLooked(null)} />}
        </>
      )}
    </StudioFrame>
  );
}
