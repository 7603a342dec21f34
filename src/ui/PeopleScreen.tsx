'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
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
import { HOUSE } from '@/platform/endpoints';
import { countWord, day } from './format';
import { MarginNote, Note, PageHeading } from './Sheet';
import { StudioFrame } from './StudioFrame';
import { FACES } from './tokens';
import { useCopy } from './useCopy';
import { useSend } from './useSend';

const ROLES = { engineer: 'engineer', conductor: 'conductor, stays blind' } as const;

/** Invites one more person; the link is shown once. */
function InviteForm({ origin }: { origin: string }) {
  const { send, busy } = useSend();
  const copy = useCopy();
  const [meantFor, setMeantFor] = useState('');
  const [role, setRole] = useState<keyof typeof ROLES>('engineer');
  const [link, setLink] = useState<string | null>(null);
  const invite = async () => {
    const made = await send(HOUSE.invite, {}, { role, meantFor });
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
          onChange={({ target }) => setRole(target.value as keyof typeof ROLES)}
          sx={{ width: 230 }}
        >
          {Object.entries(ROLES).map(([value, text]) => (
            <MenuItem key={value} value={value}>
              {text}
            </MenuItem>
          ))}
        </TextField>
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
  return (
    <StudioFrame
      name={name}
      margin={
        <MarginNote title="Roles">
          Engineers share comparisons, gear and panel with the owner. Conductors run rooms and are
          shown no chain. Listeners have no account; they use links.
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
          <Table size="small" aria-label="People" sx={{ maxWidth: 760 }}>
            <TableHead>
              <TableRow>
                <TableCell>Name</TableCell>
                <TableCell>Role</TableCell>
                <TableCell>Signed in last</TableCell>
                <TableCell />
              </TableRow>
            </TableHead>
            <TableBody>
              {view.people.map(({ accountId, name: person, role, endedAt, lastSignIn }) => (
                <TableRow key={accountId}>
                  <TableCell>{person}</TableCell>
                  <TableCell>{endedAt ? `${role}, ended ${day(endedAt)}` : role}</TableCell>
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
              ))}
              {view.invitations.map(({ id, meantFor, role, expiresAt }) => (
                <TableRow key={id}>
                  <TableCell>{meantFor}</TableCell>
                  <TableCell>{role}, invited</TableCell>
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
        </>
      )}
    </StudioFrame>
  );
}
