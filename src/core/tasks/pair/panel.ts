import { ALPHA } from '@/core/statistics/words';
import { allPairs } from '@/core/design/orders';
import { detectableShare, judgementsNeeded } from '@/core/design/power';
import { rounds } from '@/core/design/rounds';
import type { Random } from '@/core/signal/random';
import { choiceBetween, type SimulatedListener, worths } from '@/core/simulation/listeners';
import { indexJudgements, type PairJudgement } from '@/core/statistics/pair/judgements';
import { panelTest } from '@/core/statistics/pair/tests';
import { each, times } from '../shared/panel';
import type { Answer, Planned, Power, PowerQuestion, Simulated } from '../task';

/** How much tastes differ; assumed, as docs/methods.md says. */
const TASTE_SPREAD = 0.5;
const TIE_WEIGHT = Math.exp(-1.2);

function buysOfPairs(judgements: number, pairs: number): string {
  const per = Math.floor(judgements);
  if (per === 0) {
    return `Fewer than one judgement for ${each(pairs)}: this can tell nothing of single pairs.`;
  }
  const needed = judgementsNeeded(0.7, pairs);
  const found = detectableShare(per, pairs);
  if (found === null) {
    return `About ${per} judgement${per === 1 ? '' : 's'} for ${each(pairs)}: even if all agreed, no single pair could be told from chance. ${needed} would tell a 70 : 30 preference.`;
  }
  const share = Math.round(100 * found);
  return `About ${per} judgements for ${each(pairs)} tell a ${share} : ${100 - share} preference, 8 times in 10; slighter ones stay open. A 70 : 30 preference needs ${needed}.`;
}

export function buys({ seats, trials, among }: Planned): string {
  const pairs = allPairs(among).length;
  return buysOfPairs((seats * trials) / pairs, pairs);
}

function pairsFound({ chains, seats, trials, tiesAllowed, effect }: PowerQuestion, random: Random) {
  const lead = Math.log(effect / (1 - effect));
  const stream = rounds(allPairs(chains), random);
  const rows = times(seats, (seat): PairJudgement[] => {
    const worth = times(chains, (i) => (i === 0 ? lead : 0) + TASTE_SPREAD * random.normal());
    return times(trials, () => {
      const [a, b] = stream.next().value;
      const half = (worth[a]! - worth[b]!) / 2;
      const [x, y] = [Math.exp(half), Math.exp(-half)];
      const at = random.uniform() * (x + y + (tiesAllowed ? TIE_WEIGHT : 0));
      const response = at < x ? 'a' : at < x + y ? 'b' : 'tie';
      return { listener: `${seat}`, chain: `${a}`, chainB: `${b}`, first: '', response };
    });
  }).flat();
  const test = panelTest(indexJudgements(rows));
  return test !== null && test.p < ALPHA;
}

export const power: Power = {
  stated: {
    label: 'preferred in',
    unit: '% of pairs',
    value: 70,
    least: 51,
    most: 99,
    times: 0.01,
  },
  found: pairsFound,
};

export function simulate(
  listener: SimulatedListener,
  { trial, characters, tiesAllowed }: Simulated,
): Answer {
  const [first, second] = worths(listener, trial, characters) as [number, number];
  return { choice: choiceBetween(listener, first, second, tiesAllowed) };
}
