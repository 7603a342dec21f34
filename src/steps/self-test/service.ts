import type { Observation } from '@/core/statistics/observation';
import { ownFindings, readOwn } from '@/core/statistics/self-test';
import { TASKS } from '@/core/tasks';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { namesOfChains } from '@/steps/chains/store';
import { comparisonOf } from '@/steps/comparisons/service';
import { judgedOf } from '@/steps/results/service';
import { PLAIN_PLAN, type SittingDraft } from '@/steps/sitting/schema';
import { openSelfTest } from '@/steps/sitting/service';
import { chainsOfSet } from '@/steps/sitting/store';
import { type SelfTestOrder, type SelfTests, TRIALS } from './schema';
import { listSelfTests, type SelfTestRow } from './store';

/** Enough for what one looks back at; older ones stay where they are. */
const MOST_SHOWN = 20;
/** How often it is asked which of two is liked better, once whether they differ was asked. */
const CHOICES = 6;
/** Of more than two chains: twice every two of them, as far as that tires nobody. */
const choicesOf = (chains: number) =>
  Math.min(TRIALS.most, Math.max(CHOICES, chains * (chains - 1)));

/** Whether they differ first, then which is liked; all trials are drawn and sealed before the first. */
function planOf({ clipSetId, pair, task, trials }: SelfTestOrder, chains: number): SittingDraft {
  const common = {
    clipSetId,
    pair,
    adaptive: false,
    controls: { self: false, levelCatch: false, repeats: 0 },
    words: [],
  };
  return {
    title: 'A test of your own ears',
    seats: 1,
    ...PLAIN_PLAN,
    parts: [
      { ...common, task, prompt: TASKS[task].prompt, tiesAllowed: false, trials },
      {
        ...common,
        task: 'pair',
        prompt: TASKS.pair.prompt,
        tiesAllowed: true,
        trials: choicesOf(chains),
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
  const among = order.pair ?? (await chainsOfSet(db(), order.clipSetId));
  return openSelfTest(engineer, comparisonId, planOf(order, among.length), at);
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
    rows.flatMap(({ chainIds }) => chainIds),
  );
  const nameOf = (id: string) => names.get(id) ?? 'a chain that is gone';
  const findings = (of: readonly Observation[]) => ownFindings(readOwn(of), nameOf);
  const ofSame = new Map<string, SelfTestRow[]>();
  for (const row of done) {
    const key = row.chainIds.join(' ');
    ofSame.set(key, [...(ofSame.get(key) ?? []), row]);
  }
  return {
    tests: rows.map(
      ({ id, at, chainIds, all, token, state, answered, trials, seal, heardBefore }) => ({
        id,
        at,
        title: all ? `All ${chainIds.length} chains` : chainIds.map(nameOf).join(' and '),
        token: state === 'open' ? token : null,
        answered,
        trials,
        seal,
        heardBefore,
        findings: findings(said.get(id) ?? []),
      }),
    ),
    together: [...ofSame.values()].flatMap((tests) =>
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
