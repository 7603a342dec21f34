'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { Telling } from '@/core/design/telling';
import { TASK_IDS, TASKS } from '@/core/tasks';
import type { TaskId } from '@/core/tasks';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { accountOf } from '@/steps/sitting/account';
import {
  MOST_SEATS,
  type PartDraft,
  type SittingDraft,
  sittingDraft,
} from '@/steps/sitting/schema';
import type { ListenableSet } from '@/steps/sitting/service';
import { ConfirmDialog } from '@/ui/ConfirmDialog';
import { Note, PageHeading } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { useUnsaved } from '@/ui/useUnsaved';
import { MinutesAccount } from './MinutesAccount';
import { newPart } from './new-part';
import { type PartErrors, PartFields } from './PartFields';
import { PowerPanel } from './PowerPanel';
import { SetAsideFields } from './SetAsideFields';
import { Suggestion } from './Suggestion';

interface Faults {
  title?: string;
  seats?: string;
  /** What does not go together. */
  whole?: string;
  parts: (PartErrors | undefined)[];
}

/** What is wrong with a plan, field by field; null when nothing is. */
function faultsOf(draft: SittingDraft): Faults | null {
  const checked = sittingDraft.safeParse(draft);
  if (checked.success) return null;
  const faults: Faults = { parts: [] };
  for (const { path, message } of checked.error.issues) {
    const [field, index, inner] = path;
    if (field === 'title' || field === 'seats') faults[field] = message;
    if (field === 'parts' && typeof index !== 'number') faults.whole = message;
    if (field === 'parts' && typeof index === 'number') {
      const name = (inner ?? 'trials') as keyof PartDraft;
      faults.parts[index] = { ...faults.parts[index], [name]: { message } };
    }
  }
  return faults;
}

/** A whole number that can be counted with while it is being typed. */
const countable = (value: number) =>
  Number.isInteger(value) && value > 0 && value <= MOST_SEATS ? value : 1;

function accountWhileTyping(draft: SittingDraft, sets: readonly ListenableSet[]) {
  const parts = draft.parts.map((part) => ({ ...part, trials: countable(part.trials) }));
  const clips = parts.map(({ clipSetId }) => sets.find(({ id }) => id === clipSetId) ?? sets[0]!);
  const { sightedTrials } = draft;
  return accountOf({ seats: countable(draft.seats), parts, sightedTrials }, clips);
}

/** How many pairs are offered with names; fewer tell little, more are long. */
const SIGHTED = [2, 3, 4, 6, 8];

/** The plan of a sitting: part by part what is asked, of how many, and what that buys. */
export function SittingPlan({
  comparisonId,
  draftId,
  sets,
  initial,
  tellings,
  smallest,
  secondary,
  onSealed,
}: {
  comparisonId: string;
  draftId: string | null;
  /** What can be listened to. */
  sets: ListenableSet[];
  initial: SittingDraft;
  /** What the texts that were kept last may give away. */
  tellings: readonly Telling[];
  /** The smallest difference that the question cares about, of 100. */
  smallest: number | null;
  secondary: boolean;
  onSealed: () => void;
}) {
  const { send, busy } = useSend();
  const [draft, setDraft] = useState<SittingDraft>(initial);
  const [keptDraft, setKeptDraft] = useState(initial);
  const question = useUnsaved(JSON.stringify(draft) !== JSON.stringify(keptDraft));
  const [faults, setFaults] = useState<Faults | null>(null);
  const [sealing, setSealing] = useState<SittingDraft | null>(null);
  const [rehearsal, setRehearsal] = useState<string | null>(null);
  const put = (change: Partial<SittingDraft>) => setDraft({ ...draft, ...change });
  const putPart = (at: number, change: Partial<PartDraft>) =>
    put({ parts: draft.parts.map((part, i) => (i === at ? { ...part, ...change } : part)) });
  const move = (at: number, by: number) => {
    const parts = [...draft.parts];
    const part = parts.splice(at, 1)[0]!;
    parts.splice(at + by, 0, part);
    put({ parts, primaryPart: parts.indexOf(draft.parts[draft.primaryPart - 1]!) + 1 });
  };
  const remove = (at: number) => {
    const parts = draft.parts.filter((_, i) => i !== at);
    const place = parts.indexOf(draft.parts[draft.primaryPart - 1]!);
    put({ parts, primaryPart: Math.max(0, place) + 1 });
  };
  const checked = (then: (plan: SittingDraft) => unknown) => () => {
    const found = faultsOf(draft);
    setFaults(found);
    if (!found) then(draft);
  };
  const keep = async (plan: SittingDraft) => {
    const kept = await send(SITTINGS.plan, { id: comparisonId }, plan);
    if (kept) setKeptDraft(plan);
    return kept;
  };
  const seal = async (plan: SittingDraft) => {
    const kept = await keep(plan);
    if (kept && (await send(SITTINGS.open, { id: comparisonId, sittingId: kept.id }, plan)))
      onSealed();
  };
  const rehearse = async (plan: SittingDraft) => {
    const made = await send(SITTINGS.rehearse, { id: comparisonId }, plan);
    if (made) setRehearsal(`/listen/${made.token}`);
  };
  const account = accountWhileTyping(draft, sets);
  const add = (task: TaskId) => {
    const last = draft.parts.at(-1);
    const set = sets.find(({ id }) => id === last?.clipSetId) ?? sets[0]!;
    put({ parts: [...draft.parts, newPart(task, set)] });
  };
  return (
    <Box sx={{ mt: secondary ? 5 : 0 }}>
      {question}
      <PageHeading
        finding="What the panel’s minutes will buy"
        aside="A sitting is a row of parts, each one task over one set of clips. After sealing nothing of this can change."
        action={
          <>
            <Button variant="outlined" disabled={busy} onClick={checked(rehearse)}>
              Rehearse
            </Button>
            <Button variant="outlined" disabled={busy} onClick={checked(keep)}>
              Save
            </Button>
            <Button
              variant="contained"
              disabled={busy}
              onClick={checked((plan) => setSealing(plan))}
            >
              Seal and open
            </Button>
          </>
        }
      />
      <ConfirmDialog
        open={sealing !== null}
        title="Seal and open this sitting?"
        text={`The key is drawn and fixed. From then on neither its parts, questions and clips can change, nor the ${draft.seats} seats, nor what the results are held against: the question with its smallest difference, null hypothesis and prediction. It can be closed at any time, and planned anew.`}
        action="Seal for good"
        onBack={() => setSealing(null)}
        onConfirm={() => {
          if (sealing) void seal(sealing);
          setSealing(null);
        }}
      />
      {faults?.whole && <Note kind="problem">{faults.whole}</Note>}
      {tellings.map(({ name, words, certain }) => (
        <Note key={`${name} ${words}`} kind={certain ? 'problem' : 'caution'}>
          {certain
            ? `Listeners would read “${words}”, which stands for “${name}”; sealing refuses it.`
            : `Listeners read “${words}”, which is also the name of a chain or item (“${name}”); see that it cannot be taken so.`}
        </Note>
      ))}
      {rehearsal && (
        <Note kind="plain">
          The rehearsal is ready:{' '}
          <Link underline="always" href={rehearsal} target="_blank" rel="noreferrer">
            walk through it as a listener
          </Link>
          . Nothing of it is kept.
        </Note>
      )}
      <MinutesAccount account={account} plan={draft} />
      <Suggestion
        set={sets.find(({ id }) => id === draft.parts[0]?.clipSetId) ?? sets[0]!}
        listeners={countable(draft.seats)}
        parts={draft.parts}
        onParts={(parts) => put({ parts })}
      />
      <PowerPanel draft={draft} account={account} sets={sets} smallest={smallest} />
      <Box sx={{ display: 'grid', gridTemplateColumns: { md: 'repeat(3, 1fr)' }, gap: 2, my: 3 }}>
        <TextField
          label="What listeners are told they hear"
          value={draft.title}
          onChange={({ target }) => put({ title: target.value })}
          error={Boolean(faults?.title)}
          helperText={faults?.title ?? 'No chain may be named here.'}
        />
        <TextField
          label="Listeners, at most"
          type="number"
          value={Number.isNaN(draft.seats) ? '' : draft.seats}
          onChange={({ target }) =>
            put({ seats: target.value === '' ? Number.NaN : Number(target.value) })
          }
          error={Boolean(faults?.seats)}
          helperText={faults?.seats}
        />
        <TextField
          select
          label="Where they listen"
          helperText={
            draft.room === 'own'
              ? 'Each at their own pace, each in an order of their own.'
              : 'One set of loudspeakers, one order for all; answers come from phones.'
          }
          value={draft.room}
          onChange={({ target }) => put({ room: target.value as SittingDraft['room'] })}
        >
          <MenuItem value="own">on their own headphones (the default)</MenuItem>
          <MenuItem value="together">together in one room</MenuItem>
        </TextField>
        <TextField
          select
          label="Code words"
          helperText={
            draft.codeMode === 'fresh'
              ? 'Keeps one trial’s liking out of the next.'
              : 'People can talk about “Otter”. Parts with controls, right answers or a reference get fresh words all the same, since one word for each recording would give these away.'
          }
          value={draft.codeMode}
          onChange={({ target }) => put({ codeMode: target.value as SittingDraft['codeMode'] })}
        >
          <MenuItem value="fresh">fresh in each trial (the default)</MenuItem>
          <MenuItem value="fixed">one per recording, all through</MenuItem>
        </TextField>
        <TextField
          select
          label="Who may come"
          helperText={
            draft.invitedOnly
              ? 'After sealing each person of the panel gets a link of their own.'
              : 'A link for all, a code, and links of their own for people of the panel.'
          }
          value={draft.invitedOnly ? 'invited' : 'link'}
          onChange={({ target }) => put({ invitedOnly: target.value === 'invited' })}
        >
          <MenuItem value="link">whoever has the link (the default)</MenuItem>
          <MenuItem value="invited">invited people only</MenuItem>
        </TextField>
        <TextField
          select
          label="Before each trial"
          helperText="Clears the ear of the last trial."
          value={draft.resetSound}
          onChange={({ target }) => put({ resetSound: target.value as SittingDraft['resetSound'] })}
        >
          <MenuItem value="none">nothing (the default)</MenuItem>
          <MenuItem value="noise">a second of soft noise</MenuItem>
          <MenuItem value="silence">a second of silence</MenuItem>
        </TextField>
        <TextField
          select
          label="Level and practice on"
          helperText="A made-up phrase, like what is asked about; it tells nothing of any chain."
          value={draft.trainingSound}
          onChange={({ target }) =>
            put({ trainingSound: target.value as SittingDraft['trainingSound'] })
          }
        >
          <MenuItem value="music">music (the default)</MenuItem>
          <MenuItem value="speech">speech</MenuItem>
        </TextField>
        <TextField
          select
          label="Names for listeners"
          helperText={
            {
              never: 'They keep the seal and their receipt; the key stays with you.',
              'after closing':
                'Each sees their own answers with the names, how the panel did, and the key.',
              'after each part':
                'Marks the sitting as exploratory. From the first who is told the names of a part, what others still answer in it counts in no result; in a room all are told at once.',
            }[draft.reveal]
          }
          value={draft.reveal}
          onChange={({ target }) => put({ reveal: target.value as SittingDraft['reveal'] })}
        >
          <MenuItem value="after closing">after closing (the default)</MenuItem>
          <MenuItem value="after each part">after each part</MenuItem>
          <MenuItem value="never">never</MenuItem>
        </TextField>
        <TextField
          select
          label="A guess at the start"
          helperText={
            draft.asksGuess
              ? 'Whoever joins reads the names in the order of the alphabet, before they hear anything, and says which they expect to win.'
              : 'Listeners read no name before the end.'
          }
          value={draft.asksGuess ? 'asked' : 'none'}
          onChange={({ target }) => put({ asksGuess: target.value === 'asked' })}
        >
          <MenuItem value="none">not asked (the default)</MenuItem>
          <MenuItem value="asked">asked: which wins, and told apart or not</MenuItem>
        </TextField>
        <TextField
          select
          label="Own pairs again, with names and prices"
          helperText={
            draft.sightedTrials > 0
              ? 'After the last blind trial: what looks and price are worth to this panel. It is mixed into no result.'
              : 'Nothing is heard with names.'
          }
          value={draft.sightedTrials}
          onChange={({ target }) => put({ sightedTrials: Number(target.value) })}
        >
          <MenuItem value={0}>none (the default)</MenuItem>
          {SIGHTED.map((pairs) => (
            <MenuItem key={pairs} value={pairs}>
              {pairs} of each listener’s own
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {draft.parts.map((part, i) => (
        <PartFields
          key={i}
          part={part}
          number={i + 1}
          of={draft.parts.length}
          sets={sets}
          errors={faults?.parts[i]}
          onChange={(change) => putPart(i, change)}
          onMove={(by) => move(i, by)}
          onRemove={() => remove(i)}
          primary={draft.primaryPart === i + 1}
          room={draft.room}
          onPrimary={() => put({ primaryPart: i + 1 })}
        />
      ))}
      {draft.parts.length < 8 && (
        <TextField
          select
          label="Add a part"
          value=""
          onChange={({ target }) => add(target.value as TaskId)}
          sx={{ width: 320, mb: 2 }}
          helperText="Whether they can be told apart is asked first, where that is in doubt."
        >
          {TASK_IDS.map((id) => (
            <MenuItem key={id} value={id}>
              {TASKS[id].name}
            </MenuItem>
          ))}
        </TextField>
      )}
      <SetAsideFields rule={draft.setAside} onChange={(setAside) => put({ setAside })} />
      <Typography variant="h2" sx={{ mt: 3 }}>
        Order and seal
      </Typography>
      <Typography sx={{ color: token('soft'), maxWidth: '76ch' }}>
        {draft.room === 'own'
          ? 'Orders are balanced over the seats: each recording comes first as often as second, every pair equally often, every place equally often on a line. Right answers and the places of controls are drawn anew each time, so that counting tells nothing.'
          : 'All hear one order, so it is balanced within itself as far as one order can be; several sittings even out what is left.'}{' '}
        On sealing, the key is drawn and its SHA-256 is shown to every listener; at closing every
        trial is compared with it, and afterwards anyone can check it with the key file.
      </Typography>
      {draft.room === 'own' && (
        <Typography sx={{ color: token('soft'), maxWidth: '76ch', mt: 1 }}>
          What stays open: the sound itself. On their own machine somebody with a programmer’s tools
          can line copies up and see which are of one recording
          {draft.reveal === 'after each part'
            ? '; once the names of a part are told, also which recording that is in the parts to come'
            : ', though not which recording that is'}
          . Only a room, where phones get no sound, closes that.
        </Typography>
      )}
      {draftId && (
        <Button
          sx={{ mt: 2 }}
          color="error"
          disabled={busy}
          onClick={() => void send(SITTINGS.discard, { id: comparisonId, sittingId: draftId })}
        >
          Discard this plan
        </Button>
      )}
    </Box>
  );
}
