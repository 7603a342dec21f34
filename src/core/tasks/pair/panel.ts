import { allPairs } from '@/core/design/orders';
import type { Random } from '@/core/signal/random';
import { choiceBetween, type SimulatedListener, worths } from '@/core/simulation/listeners';
import { each, listenersOf, times } from '../shared/panel';
import type { Answer, Answering, Planned, Power, PowerQuestion, Simulated } from '../task';

/** How much tastes differ; assumed, as docs/methods.md says. */
const TASTE_SPREAD = 0.5;
const TIE_WEIGHT = Math.exp(-1.2);

export function buys({ seats, trials, among }: Planned): string {
  const pairs = allPairs(among).length;
  const per = Math.floor((seats * trials) / pairs);
  return per === 0
    ? `Fewer than one judgement for ${each(pairs)}: this can tell nothing of single pairs.`
    : `About ${per} judgement${per === 1 ? '' : 's'} for ${each(pairs)}, of ${listenersOf(seats)}.`;
}

function listener({ chains, tiesAllowed, effect }: PowerQuestion, random: Random): Answering {
  const lead = Math.log(effect / (1 - effect));
  const worth = times(chains, (i) => (i === 0 ? lead : 0) + TASTE_SPREAD * random.normal());
  return ({ slots }) => {
    const [a, b] = slots.map(({ chain }) => worth[chain]!) as [number, number];
    const [x, y] = [Math.exp((a - b) / 2), Math.exp((b - a) / 2)];
    const at = random.uniform() * (x + y + (tiesAllowed ? TIE_WEIGHT : 0));
    return { choice: at < x ? 'first' : at < x + y ? 'second' : 'tie' };
  };
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
  names: () => '0',
  listener,
};

export function simulate(
  listener: SimulatedListener,
  { trial, characters, tiesAllowed }: Simulated,
): Answer {
  const [first, second] = worths(listener, trial, characters) as [number, number];
  return { choice: choiceBetween(listener, first, second, tiesAllowed) };
}
