'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import FormGroup from '@mui/material/FormGroup';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { RESULTS } from '@/steps/results/endpoints';
import type { JointView, TogetherView } from '@/steps/results/together';
import { countWord, day } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { Note, PageHeading } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { AgainstReference } from './AgainstReference';
import { Method } from './sections/cells';

/** What was read, and how it was chosen. */
function Joint({ comparisonId, joint }: { comparisonId: string; joint: JointView }) {
  const { read, says, cautions, reference, sittings, listeners, by, at, reason } = joint;
  const nothing = !read.bridge.pair && !read.bridge.rating?.chains.length;
  return (
    <>
      {cautions.map((sentence) => (
        <Note key={sentence} kind="caution">
          {sentence}
        </Note>
      ))}
      <Box component="ul" sx={{ pl: 2.5, my: 1 }}>
        {says.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
        {nothing && <li>No sound reading links the chains of these sittings to {reference}.</li>}
      </Box>
      <AgainstReference read={read} reference={reference} />
      <Method>
        {sittings.join(' and ')}; {countWord(listeners, 'listener').toLowerCase()}, whoever took
        part in several counted once (known by their place on the panel, else by the name they
        gave). Choices: one model of all pairs, with the listener as the unit, so that a chain of
        one sitting is set against one of another through {reference}; 50 is level with it. Points:
        each listener’s place less their place for {reference} in the same sitting. The intervals
        are 95 % each, not corrected for their number.
      </Method>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mt: 1 }}>
        {by} chose these sittings {day(at)}, after the answers were in: “{reason}”. So this
        describes; it is no test that was planned, and each sitting keeps its own result.
      </Typography>
      <Button
        variant="outlined"
        sx={{ mt: 1.5 }}
        href={`/api/comparisons/${comparisonId}/together/${joint.id}/answers`}
      >
        All answers (CSV)
      </Button>
    </>
  );
}

/** Chooses which sittings are read together, against what and why. */
function Choice({ view }: { view: TogetherView }) {
  const { comparison, sittings, chains } = view;
  const router = useRouter();
  const { send, busy } = useSend();
  const [chosen, setChosen] = useState<readonly string[]>(() => sittings.map(({ id }) => id));
  const [wanted, setWanted] = useState<string | null>(null);
  const [reason, setReason] = useState('');
  const among = sittings.filter(({ id }) => chosen.includes(id));
  const common = chains.filter(({ id }) => among.every(({ chainIds }) => chainIds.includes(id)));
  const reference = common.find(({ id }) => id === wanted) ?? common[0];
  const read = async () => {
    if (!reference) return;
    const made = await send(
      RESULTS.readTogether,
      { id: comparison.id },
      { sittingIds: [...chosen], referenceChainId: reference.id, reason },
    );
    if (made) router.push(`/comparisons/${comparison.id}/together?reading=${made.id}`);
  };
  return (
    <Box component="section" sx={{ mt: 3, maxWidth: 720 }}>
      <Typography variant="h2">Which sittings count</Typography>
      <FormGroup>
        {sittings.map(({ id, title, closedAt }) => (
          <FormControlLabel
            key={id}
            control={
              <Checkbox
                size="small"
                checked={chosen.includes(id)}
                onChange={({ target }) =>
                  setChosen(target.checked ? [...chosen, id] : chosen.filter((one) => one !== id))
                }
              />
            }
            label={`${title}${closedAt ? `, closed ${day(closedAt)}` : ''}`}
          />
        ))}
      </FormGroup>
      {chosen.length > 1 && common.length === 0 && (
        <Typography sx={{ color: token('ochre'), my: 1 }}>
          These sittings have no chain in common, so nothing links them; choose others.
        </Typography>
      )}
      <Box sx={{ display: 'grid', gap: 2, my: 1.5 }}>
        <TextField
          select
          label="Set against"
          value={reference?.id ?? ''}
          disabled={common.length === 0}
          onChange={({ target }) => setWanted(target.value)}
          helperText="A chain that all of them heard: the bridge from one to the other."
        >
          {common.map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Why these"
          value={reason}
          onChange={({ target }) => setReason(target.value)}
          helperText="Kept with the choice, and shown with what it gives."
          slotProps={{ htmlInput: { maxLength: 500 } }}
        />
      </Box>
      <Button
        variant="contained"
        disabled={busy || chosen.length < 2 || !reference || reason.trim() === ''}
        onClick={() => void read()}
      >
        Read together
      </Button>
    </Box>
  );
}

/** Several closed sittings beside each other, through a chain that all of them heard. */
export function TogetherScreen({ view }: { view: TogetherView }) {
  const { comparison, sittings, readings, joint } = view;
  const results = `/comparisons/${comparison.id}/results`;
  if (sittings.length < 2) {
    return (
      <>
        <PageHeading
          finding="There is but one sitting to read"
          aside="Sittings are read together once two of them are closed: a second panel, the same one in spring, or the answers to a blind pack."
        />
        <Link component={NextLink} href={results}>
          Back to the results
        </Link>
      </>
    );
  }
  return (
    <>
      <PageHeading
        finding={
          joint
            ? `${countWord(joint.sittings.length, 'sitting')}, set against ${joint.reference}`
            : 'Read several sittings together'
        }
        aside={joint ? undefined : 'Each keeps its own result; this sets them beside each other.'}
        action={
          <Button component={NextLink} variant="outlined" href={results}>
            Single results
          </Button>
        }
      />
      {joint && <Joint comparisonId={comparison.id} joint={joint} />}
      <Choice key={readings.length} view={view} />
      {readings.length > 1 && (
        <Box component="section" sx={{ mt: 3 }}>
          <Typography variant="h2">Read before</Typography>
          {readings.map(({ id, at, sittings: which }) => (
            <Box key={id}>
              <Link
                component={NextLink}
                href={`/comparisons/${comparison.id}/together?reading=${id}`}
                aria-current={id === joint?.id ? 'page' : undefined}
              >
                {day(at)}: {which.join(' and ')}
              </Link>
            </Box>
          ))}
        </Box>
      )}
    </>
  );
}
