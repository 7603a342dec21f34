import type { Observation } from '@/core/statistics/observation';
import { ownFindings, readOwn } from '@/core/statistics/self-test';
import { TASKS } from '@/core/tasks';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { namesOfChains } from '@/steps/chains/store';
import { comparisonOf } from '@/steps/comparisons/service';
import { judgedOf } from '@/steps/results/service';
import type { SittingDraft } from '@/steps/sitting/schema';
import { openSelfTest } from '@/steps/sitting/service';
import type { SelfTestOrder, SelfTests } from './schema';
import { listSelfTests, type SelfTestRow } from './store';

/** Enough for what one looks back at; older ones stay where they are. */
const MOST_SHOWN = 20;
/** How often it is asked which of the two is liked better, once whether they differ was asked. */
const CHOICES = 6;

/** Whether they differ first, then which is liked; all trials are drawn and sealed before the first. */
function planOf({ clipSetId, pair, task, trials }: SelfTestOrder): SittingDraft {
  const common = {
    clipSetId,
    pair,
    adaptive: false,
    controls: { self: false, louder: false, repeats: 0 },
    words: [],
  };
  return {
    title: 'A test of your own ears',
    seats: 1,
    codeMode: 'fresh',
    invitedOnly: false,
    room: 'own',
    reveal: 'after closing',
    resetSound: 'none',
    primaryPart: 1,
    parts: [
      { ...common, task, prompt: TASKS[task].prompt, tiesAllowed: false, trials },
      {
        ...common,
        task: 'pair',
        prompt: TASKS.pair.prompt,
        tiesAllowed: true,
        trials: CHOICES,
      },
    ],
  };
}

/** Draws, seals and opens a test for whoever asks. @returns the secret of its link */
export async function beginSelfTest(
  engineer: SignedIn,
  comparisonId: string,
  order: SelfTestOrder,
  at: Date,
): Promise<{ token: string }> {
  return openSelfTest(engineer, comparisonId, planOf(order), at);
}

/** What whoever asks tested themselves on, and what it came to; nobody else's. */
export async function selfTestsOf(engineer: SignedIn, comparisonId: string): Promise<SelfTests> {
  await comparisonOf(engineer, comparisonId);
  const rows = await listSelfTests(db(), comparisonId, engineer.accountId, MOST_SHOWN);
  if (rows.length === 0) return { tests: [], together: [] };
  const done = rows.filter(({ state }) => state === 'closed');
  const said = await judgedOf(
    db(),
    done.map(({ id }) => id),
  );
  const names = await namesOfChains(
    db(),
    rows.flatMap(({ pair }) => pair),
  );
  const nameOf = (id: string) => names.get(id) ?? 'a chain that is gone';
  const findings = (of: readonly Observation[]) => ownFindings(readOwn(of), nameOf);
  const ofPair = new Map<string, SelfTestRow[]>();
  for (const row of done) {
    const key = row.pair.join(' ');
    ofPair.set(key, [...(ofPair.get(key) ?? []), row]);
  }
  return {
    tests: rows.map(({ id, at, pair, token, state, answered, trials, seal, heardBefore }) => ({
      id,
      at,
      title: pair.map(nameOf).join(' and '),
      token: state === 'open' ? token : null,
      answered,
      trials,
      seal,
      heardBefore,
      findings: findings(said.get(id) ?? []),
    })),
    together: [...ofPair.values()].flatMap((tests) =>
      tests.length > 1
        ? [
            {
              tests: tests.length,
              findings: findings(tests.flatMap(({ id }) => said.get(id) ?? [])),
            },
          ]
        : [],
    ),
  };
}
