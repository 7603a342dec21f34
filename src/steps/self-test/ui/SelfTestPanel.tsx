'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { fewestRight } from '@/core/statistics/self-test';
import { GUESS } from '@/core/statistics/psychometric';
import { SELF_TESTS } from '@/steps/self-test/endpoints';
import {
  APART_TASKS,
  type AddedUp,
  type SelfTest,
  type SelfTestOrder,
  type SelfTests,
  TRIALS,
} from '@/steps/self-test/schema';
import { ASKED_NOW } from '@/steps/sitting/schema';
import { day } from '@/ui/format';
import { Note } from '@/ui/Sheet';
import { FACES, token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';

/** In place of a chain: every two of them. */
const ALL = 'all';

const WORDS: Record<SelfTestOrder['task'], string> = {
  triangle: 'odd one out of three (default)',
  'duo-trio': 'which is the twin of the first',
};

function Test({ test }: { test: SelfTest }) {
  const { at, title, token: link, answered, trials, seal, heardBefore, findings } = test;
  return (
    <Box sx={{ mt: 1.5, maxWidth: '80ch' }}>
      <Typography sx={{ fontWeight: 600 }}>
        {title}, {day(at)}
      </Typography>
      {link ? (
        <Typography>
          {answered} of {trials} trials answered;{' '}
          <Link underline="always" href={`/listen/${link}`} target="_blank" rel="noreferrer">
            go on
          </Link>
          . What it comes to is told after the last.
        </Typography>
      ) : (
        findings.map((finding) => <Typography key={finding}>{finding}</Typography>)
      )}
      <Typography
        sx={{ fontSize: '0.75rem', color: token('soft'), overflowWrap: 'anywhere' }}
        component="div"
      >
        {heardBefore && 'You had heard these by name before. '}Seal{' '}
        <Box component="span" sx={{ fontFamily: FACES.mono }}>
          {seal.slice(0, 16)}…
        </Box>
      </Typography>
    </Box>
  );
}

function Together({ tests, findings }: AddedUp) {
  return (
    <Box sx={{ mt: 1.5, maxWidth: '80ch' }}>
      <Typography sx={{ fontWeight: 600 }}>{tests} tests together</Typography>
      {findings.map((finding) => (
        <Typography key={finding}>{finding}</Typography>
      ))}
      <Typography sx={{ fontSize: '0.8125rem', color: token('soft') }}>
        Whoever looks after each test and goes on until it shows something makes luck likelier than
        these figures say.
      </Typography>
    </Box>
  );
}

/** A short way to one's own ears: blind, sealed by the machine, told at once and about oneself alone. */
export function SelfTestPanel({
  comparisonId,
  clipSetId,
  chains,
  asked,
  view,
}: {
  comparisonId: string;
  clipSetId: string;
  chains: { id: string; name: string }[];
  /** Whether an open sitting asks the panel about these clips. */
  asked: boolean;
  view: SelfTests;
}) {
  const { send, busy } = useSend();
  const [chosen, setPair] = useState<[string, string] | null>(null);
  const [all, setAll] = useState(false);
  // Other clips may be of other chains.
  const there = chosen?.every((id) => chains.some((chain) => chain.id === id));
  const pair: [string, string] =
    chosen && there ? chosen : [chains[0]?.id ?? '', chains[1]?.id ?? ''];
  // Of two chains, all are these two.
  const everyPair = all && chains.length > 2;
  const [task, setTask] = useState<SelfTestOrder['task']>('triangle');
  const [trials, setTrials] = useState<number>(TRIALS.usual);
  const [link, setLink] = useState<string | null>(null);
  const begin = async () => {
    const made = await send(
      SELF_TESTS.begin,
      { id: comparisonId },
      { clipSetId, pair: everyPair ? null : pair, task, trials },
    );
    if (made) setLink(`/listen/${made.token}`);
  };
  const chain = (label: string, at: 0 | 1) => (
    <TextField
      select
      label={label}
      value={at === 0 && everyPair ? ALL : pair[at]}
      onChange={({ target }) => {
        if (at === 0) setAll(target.value === ALL);
        if (target.value === ALL) return;
        setPair(at === 0 ? [target.value, pair[1]] : [pair[0], target.value]);
      }}
      sx={{ width: 200 }}
    >
      {at === 0 && chains.length > 2 && <MenuItem value={ALL}>all of them</MenuItem>}
      {chains.map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
  const twice = !everyPair && pair[0] === pair[1];
  const pairs = (chains.length * (chains.length - 1)) / 2;
  const needed = fewestRight(trials, GUESS[task]);
  return (
    <Box component="details" sx={{ mt: 3 }} open={view.tests.length > 0}>
      <Box component="summary" sx={{ cursor: 'pointer', color: token('pen') }}>
        Test myself blind
      </Box>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', my: 1, maxWidth: '72ch' }}>
        All trials are drawn and sealed before the first; nobody else is needed. First whether you
        tell two apart, then which you like better. After the last answer you see what it came to,
        about you alone: with the names told it never counts for a panel.
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'center', mt: 2 }}>
        {chain('This chain', 0)}
        {!everyPair && chain('against', 1)}
        <TextField
          select
          label="I am asked"
          value={task}
          onChange={({ target }) => setTask(target.value as SelfTestOrder['task'])}
          sx={{ width: 260 }}
        >
          {APART_TASKS.map((id) => (
            <MenuItem key={id} value={id}>
              {WORDS[id]}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Trials"
          value={trials}
          onChange={({ target }) => setTrials(Number(target.value))}
          sx={{ width: 100 }}
        >
          {Array.from({ length: TRIALS.most - TRIALS.least + 1 }, (_, i) => TRIALS.least + i).map(
            (n) => (
              <MenuItem key={n} value={n}>
                {n}
              </MenuItem>
            ),
          )}
        </TextField>
        <Button variant="outlined" disabled={busy || twice || asked} onClick={() => void begin()}>
          Seal and begin
        </Button>
      </Box>
      <Typography sx={{ fontSize: '0.8125rem', color: token('soft'), mt: 1 }}>
        {asked
          ? ASKED_NOW
          : twice
            ? 'Choose two different chains.'
            : needed !== null &&
              (everyPair
                ? `${needed} of ${trials} right over all ${pairs} pairs show that you tell some of them apart; which ones takes more trials of two.`
                : `${needed} of ${trials} right show that you tell them apart; fewer show nothing either way.`)}
      </Typography>
      {link && (
        <Note kind="plain">
          Your test is sealed:{' '}
          <Link underline="always" href={link} target="_blank" rel="noreferrer">
            take it now
          </Link>
          , or go on with it later from here.
        </Note>
      )}
      {view.together.map((one) => (
        <Together key={one.findings.join()} {...one} />
      ))}
      {view.tests.map((test) => (
        <Test key={test.id} test={test} />
      ))}
    </Box>
  );
}
