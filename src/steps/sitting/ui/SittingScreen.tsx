'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { planOf, type SittingDraft } from '@/steps/sitting/schema';
import type { SittingView } from '@/steps/sitting/service';
import { countWord, day } from '@/ui/format';
import { ConfirmDialog } from '@/ui/ConfirmDialog';
import { NextLink } from '@/ui/NextLink';
import { Note, PageHeading } from '@/ui/Sheet';
import { ShownOnce } from '@/ui/ShownOnce';
import { FACES, token } from '@/ui/tokens';
import { useCopy } from '@/ui/useCopy';
import { useSend } from '@/ui/useSend';
import { BalanceNote } from './BalanceNote';
import { ImportResults } from './ImportResults';
import { MinutesAccount } from './MinutesAccount';
import { newPart } from './new-part';
import { PanelTable } from './PanelTable';
import { PersonalLinks } from './PersonalLinks';
import { SittingPlan } from './SittingPlan';
import type { Ids } from '@/platform/endpoint';
import { SITTINGS } from '@/steps/sitting/endpoints';

type Listed = SittingView['sittings'][number];

const NOWHERE = { link: '', listenPage: '', qr: '', conductPage: '', loopback: false };

/** How others come to an open sitting. */
export interface Invitation {
  link: string;
  /** Where the short code is typed; personal links lie below it. */
  listenPage: string;
  qr: string;
  /** Below it lie links of whoever runs a room. */
  conductPage: string;
  /** Whether these links open on this machine only. */
  loopback: boolean;
}

/** A seal in groups, so that two people can compare it by ear. */
function SealNumber({ seal }: { seal: string }) {
  return (
    <Box
      sx={{
        fontFamily: FACES.mono,
        fontSize: '0.8125rem',
        color: token('pen'),
        overflowWrap: 'anywhere',
      }}
    >
      {seal.match(/.{4}/g)?.join(' ')}
    </Box>
  );
}

type OneSitting = Ids<typeof SITTINGS.open.path>;

/** Opening the key before its time: asked twice, never a secret. */
function BreakSeal({ ids, sitting }: { ids: OneSitting; sitting: Listed }) {
  const { send, busy } = useSend();
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState('');
  const [title, setTitle] = useState('');
  if (sitting.sealBrokenAt) {
    return (
      <Note kind="caution">
        The seal was broken {day(sitting.sealBrokenAt)}: “{sitting.sealBrokenReason}”. Every report
        of this sitting says so.{' '}
        <Link
          underline="always"
          href={`/api/comparisons/${ids.id}/sittings/${sitting.id}/files/key.json`}
        >
          The key
        </Link>
      </Note>
    );
  }
  const breakIt = async () => {
    const done = await send(SITTINGS.breakSeal, ids, { reason, title });
    if (done !== null) setOpen(false);
  };
  return (
    <>
      <Button size="small" color="error" sx={{ mt: 2 }} onClick={() => setOpen(true)}>
        Break the seal
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} fullWidth maxWidth="sm">
        <DialogTitle>Break the seal?</DialogTitle>
        <DialogContent>
          <Typography sx={{ mb: 2 }}>
            You would know which recording is which while people still listen. It is written down,
            with the time and your reason, and stands in every report of this sitting for good.
          </Typography>
          <Box sx={{ display: 'grid', gap: 2 }}>
            <TextField
              label="Why it must be"
              value={reason}
              multiline
              onChange={({ target }) => setReason(target.value)}
              slotProps={{ htmlInput: { maxLength: 500 } }}
            />
            <TextField
              label={`Type the title to be sure: ${sitting.title}`}
              value={title}
              onChange={({ target }) => setTitle(target.value)}
            />
          </Box>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Leave it whole</Button>
          <Button
            color="error"
            disabled={busy || reason.trim() === '' || title.trim() !== sitting.title}
            onClick={() => void breakIt()}
          >
            Break it
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}

/** Makes links for whoever runs the room; each is shown once. */
function ConductorLink({ sittingId, conductPage }: { sittingId: string; conductPage: string }) {
  const { send, busy } = useSend();
  const [link, setLink] = useState<string | null>(null);
  const make = async () => {
    const made = await send(SITTINGS.roomLink, { sittingId });
    if (made) setLink(`${conductPage}/${made.token}`);
  };
  return (
    <Box sx={{ mb: 2 }}>
      <Typography variant="h2">The conductor’s link</Typography>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem' }}>
        Plays the room on the loudspeakers and serves as the big screen. It names no chain, so
        whoever runs it stays blind as well. The first device that plays holds it.
      </Typography>
      <Button size="small" variant="outlined" disabled={busy} onClick={() => void make()}>
        {link ? 'Make another' : 'Make the link'}
      </Button>
      <ShownOnce links={link ? [{ name: 'Conductor', link }] : []} />
    </Box>
  );
}

function OpenSitting({
  comparisonId,
  sitting,
  panel,
  invitation,
  onClose,
  onCopy,
}: {
  comparisonId: string;
  sitting: Listed;
  panel: SittingView['panel'];
  invitation: Invitation;
  onClose: () => void;
  onCopy: () => void;
}) {
  const copy = useCopy();
  const ids = { id: comparisonId, sittingId: sitting.id };
  const { send } = useSend();
  const { counts, account, sharedLink } = sitting;
  const all = counts.joined * counts.trialsEach;
  return (
    <>
      <PageHeading
        finding={
          counts.joined === 0
            ? 'Sealed and open; nobody has come yet'
            : `${countWord(counts.joined, 'listener has', 'listeners have')} come, ${doneText(counts.finished)}`
        }
        aside={`${sitting.title}. ${all > 0 ? `${counts.answers} of ${all} answers are kept. ` : ''}What is answered stays shut until you close the sitting.`}
        action={
          <Button variant="contained" onClick={onClose}>
            Close and open the key
          </Button>
        }
      />
      {invitation.loopback && (
        <Note kind="caution">
          These links and the QR code open on this machine only. For phones, start Zeitbank with
          HOST=0.0.0.0 in a network you trust, and open this page by the machine’s name there.
        </Note>
      )}
      {sitting.namedListening.map(({ name, at }) => (
        <Note key={name} kind="caution">
          {name} listened by name while this sitting was open, first {day(at)}; every report says
          so.
        </Note>
      ))}
      <Box sx={{ display: 'grid', gridTemplateColumns: { md: '200px 1fr' }, gap: 4 }}>
        <Box
          component="img"
          src={invitation.qr}
          alt="QR code of the listeners’ link"
          sx={{ width: 200, height: 200, border: `1px solid ${token('rule')}`, bgcolor: '#fff' }}
        />
        <Box>
          <Typography variant="h2">The listeners’ link</Typography>
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', mt: 0.5, mb: 2 }}>
            <Link
              href={invitation.link}
              target="_blank"
              sx={{ fontFamily: FACES.mono, fontSize: '0.875rem', overflowWrap: 'anywhere' }}
            >
              {invitation.link}
            </Link>
            <Button size="small" variant="outlined" onClick={() => void copy(invitation.link)}>
              Copy
            </Button>
          </Box>
          {sitting.code && sharedLink && (
            <Typography sx={{ mb: 2 }}>
              Or the code{' '}
              <Box component="span" sx={{ fontFamily: FACES.mono, letterSpacing: '0.1em' }}>
                {sitting.code}
              </Box>{' '}
              at {invitation.listenPage}, for a day.
            </Typography>
          )}
          <Typography sx={{ mb: 2 }}>
            {sitting.invitedOnly
              ? 'This sitting is for invited people only: give each a link of their own below. '
              : sharedLink
                ? 'Whoever has it may join while there are seats. '
                : 'It takes nobody new; whoever has a seat keeps it. '}
            {!sitting.invitedOnly && (
              <Button
                size="small"
                onClick={() => void send(SITTINGS.shareLink, ids, { open: !sharedLink })}
              >
                {sharedLink ? 'Take nobody new by it' : 'Take new listeners again'}
              </Button>
            )}
          </Typography>
          {sitting.room === 'together' && (
            <ConductorLink sittingId={sitting.id} conductPage={invitation.conductPage} />
          )}
          <Typography variant="h2">Seal</Typography>
          <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mb: 0.5 }}>
            The key was fixed at {sitting.openedAt ? day(sitting.openedAt) : ''} and stays shut.
            Every listener is shown this number:
          </Typography>
          <SealNumber seal={sitting.seal ?? ''} />
          <BreakSeal ids={ids} sitting={sitting} />
        </Box>
      </Box>
      <PersonalLinks ids={ids} listen={invitation.listenPage} counts={counts} panel={panel} />
      <Typography variant="h2" sx={{ mt: 4 }}>
        The panel’s minutes
      </Typography>
      <MinutesAccount account={account} plan={sitting} counts={counts} />
      <BalanceNote parts={sitting.parts} balances={sitting.balances} />
      <PanelTable ids={ids} counts={counts} open />
      <Button sx={{ mt: 2, mb: 5 }} onClick={onCopy}>
        Plan another like this
      </Button>
    </>
  );
}

function ClosedList({ sittings, comparisonId }: { sittings: Listed[]; comparisonId: string }) {
  const [shown, setShown] = useState<string | null>(null);
  return (
    <Box sx={{ mt: 5 }}>
      <Box
        sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', mb: 0.5 }}
      >
        <Typography variant="h2">
          {sittings.length > 0 ? 'Closed before' : 'Heard elsewhere'}
        </Typography>
        <ImportResults comparisonId={comparisonId} />
      </Box>
      {sittings.map(({ id, title, closedAt, counts, simulated, broughtFile }) => (
        <Box key={id} sx={{ py: 0.75, borderTop: `1px solid ${token('hair')}` }}>
          <Link
            component={NextLink}
            underline="always"
            href={`/comparisons/${comparisonId}/results?sitting=${id}`}
          >
            {title}
          </Link>
          , {broughtFile === null ? 'closed' : `brought in from “${broughtFile}”,`}{' '}
          {closedAt ? day(closedAt) : ''}: {counts.answers} answers of {counts.joined}{' '}
          {simulated && 'simulated '}listeners{' '}
          <Button
            size="small"
            aria-expanded={shown === id}
            onClick={() => setShown(shown === id ? null : id)}
          >
            The panel
          </Button>
          {shown === id && <PanelTable ids={{ id: comparisonId, sittingId: id }} counts={counts} />}
        </Box>
      ))}
    </Box>
  );
}

function doneText(finished: number): string {
  if (finished === 0) return 'none is done';
  return finished === 1 ? '1 is done' : `${finished} are done`;
}

function stillListening(sitting: Listed | null): string {
  const count = sitting ? sitting.counts.joined - sitting.counts.finished : 0;
  if (count === 0) return '';
  return ` ${countWord(count, 'listener is', 'listeners are')} not done; what they answered so far counts.`;
}

/** The plan of a sitting, over the newest clips: a part whose clips were made anew is proposed anew. */
function renewed(sitting: Listed, { sets }: SittingView): SittingDraft {
  const plan = planOf(sitting);
  return {
    ...plan,
    parts: plan.parts.map((part) =>
      sets.some(({ id }) => id === part.clipSetId)
        ? part
        : { ...newPart(part.task, sets[0]!), prompt: part.prompt, trials: part.trials },
    ),
  };
}

export function SittingScreen({
  view,
  invitations,
}: {
  view: SittingView;
  invitations: Record<string, Invitation>;
}) {
  const { comparison, sittings, proposal, sets } = view;
  const clipsReady = proposal !== null;
  const { send } = useSend();
  const router = useRouter();
  const [closing, setClosing] = useState<Listed | null>(null);
  const [copied, setCopied] = useState<Listed | null>(null);
  const close = async (sittingId: string) => {
    const closed = await send(SITTINGS.close, { id: comparison.id, sittingId });
    if (closed) router.push(`/comparisons/${comparison.id}/results?sitting=${sittingId}`);
  };
  const open = sittings.filter(({ state }) => state === 'open');
  const draft = sittings.find(({ state }) => state === 'draft');
  const closed = sittings.filter(({ state }) => state === 'closed');
  const known = draft ?? copied;
  const plan = known && clipsReady ? renewed(known, view) : proposal;
  const showPlan = plan && (open.length === 0 || copied || draft);
  return (
    <>
      {open.map((sitting) => (
        <OpenSitting
          key={sitting.id}
          comparisonId={comparison.id}
          sitting={sitting}
          panel={view.panel}
          invitation={invitations[sitting.id] ?? NOWHERE}
          onClose={() => setClosing(sitting)}
          onCopy={() => setCopied(sitting)}
        />
      ))}
      {showPlan && clipsReady && (
        <SittingPlan
          // Keeping a plan for the first time must not take away what is being typed.
          key={copied?.id ?? 'plan'}
          comparisonId={comparison.id}
          draftId={draft?.id ?? null}
          sets={sets}
          initial={plan}
          tellings={draft?.tellings ?? []}
          smallest={comparison.brief.smallestSharePct}
          secondary={open.length > 0}
          onSealed={() => setCopied(null)}
        />
      )}
      {!clipsReady && open.length === 0 && (
        <>
          <PageHeading finding="A sitting needs matched clips" />
          <Typography sx={{ mb: 2, maxWidth: '60ch' }}>
            Here the panel listens blind. First make the clips equally loud; then plan what is
            asked, seal the key, and send the link.
          </Typography>
          <Button
            component={NextLink}
            href={`/comparisons/${comparison.id}/match`}
            variant="contained"
          >
            Go to the match
          </Button>
        </>
      )}
      <ClosedList sittings={closed} comparisonId={comparison.id} />
      <ConfirmDialog
        open={closing !== null}
        title="Close this sitting?"
        text={`No answer can be given afterwards, and nobody can join. The key is opened and the results are read.${stillListening(closing)}`}
        action="Close for good"
        onBack={() => setClosing(null)}
        onConfirm={() => {
          if (closing) void close(closing.id);
          setClosing(null);
        }}
      />
    </>
  );
}
