import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { Random } from '@/core/signal/random';
import type { TrialKind } from '@/core/tasks/task';
import { allPairs, type PairSlot } from './orders';

/** A pair that a listener judged. */
export interface JudgedPair extends PairSlot {
  choice: 'first' | 'second' | 'tie';
}

/** Spread of merits on the logit scale before anything is known of a listener's taste. */
const PRIOR_SD = 1;
const NEWTON_STEPS = 25;
/** Gains that differ by less are one, and the lot decides. */
const SAME_GAIN = 1e-9;

/** Said in the sealed plan, so that the rule is fixed before the first answer. */
export const ADAPTIVE_RULE =
  'Adaptive pairs: trials 1 and 2 of the part are drawn beforehand for each listener; controls stay where ' +
  'they were drawn and count for nothing here. After answer n of a listener, ' +
  'trial n+2 is the pair with the largest expected gain ½ ln(1 + p(1−p)v), where p is the expected share of ' +
  'one over the other and v the variance of their difference, by a Bradley–Terry model of this listener’s ' +
  'answers alone (a tie counts half for each; prior normal, standard deviation 1; Laplace), the pair already ' +
  'drawn for n+1 counted as asked and never repeated next. Equal gains, and who stands first where both ' +
  'stood first equally often, are decided by the sealed seed.';

const share = (difference: number) => 1 / (1 + Math.exp(-difference));

/**
 * Merits of one listener and the inverse of their covariance, after these answers.
 * @returns merits on the logit scale and the precision at the posterior's mode
 */
function posterior(
  chains: number,
  judged: readonly JudgedPair[],
): { merit: number[]; precision: Matrix } {
  let merit = Matrix.zeros(chains, 1);
  let precision = Matrix.eye(chains, chains).div(PRIOR_SD ** 2);
  for (let step = 0; step < NEWTON_STEPS; step++) {
    const gradient = Matrix.mul(merit, -1 / PRIOR_SD ** 2);
    precision = Matrix.eye(chains, chains).div(PRIOR_SD ** 2);
    for (const { first, second, choice } of judged) {
      const p = share(merit.get(first, 0) - merit.get(second, 0));
      const won = choice === 'tie' ? 0.5 : choice === 'first' ? 1 : 0;
      gradient.set(first, 0, gradient.get(first, 0) + won - p);
      gradient.set(second, 0, gradient.get(second, 0) - won + p);
      addInformation(precision, first, second, p * (1 - p));
    }
    const move = new CholeskyDecomposition(precision).solve(gradient);
    merit = Matrix.add(merit, move);
    if (move.norm() < 1e-10) break;
  }
  return { merit: merit.to1DArray(), precision };
}

function addInformation(precision: Matrix, a: number, b: number, weight: number): void {
  precision.set(a, a, precision.get(a, a) + weight);
  precision.set(b, b, precision.get(b, b) + weight);
  precision.set(a, b, precision.get(a, b) - weight);
  precision.set(b, a, precision.get(b, a) - weight);
}

/**
 * The pair whose answer is expected to tell most of one listener's taste, by the rule above. It looks at
 * that listener alone, so that listeners stay independent and tests over listeners stay valid.
 * @param judged answers of this listener so far
 * @param pending the pair that is drawn already and not answered yet
 * @param random only for what the rule leaves open
 * @throws RangeError for fewer than three chains: there is nothing to choose
 */
export function nextPair(
  chains: number,
  judged: readonly JudgedPair[],
  pending: PairSlot | null,
  random: Random,
): PairSlot {
  if (chains < 3) throw new RangeError('three chains are the least to choose a pair from');
  const { merit, precision } = posterior(chains, judged);
  if (pending) {
    const p = share(merit[pending.first]! - merit[pending.second]!);
    addInformation(precision, pending.first, pending.second, p * (1 - p));
  }
  const covariance = new CholeskyDecomposition(precision).solve(Matrix.eye(chains, chains));
  const gain = (a: number, b: number) => {
    const variance = covariance.get(a, a) + covariance.get(b, b) - 2 * covariance.get(a, b);
    const p = share(merit[a]! - merit[b]!);
    return 0.5 * Math.log(1 + p * (1 - p) * variance);
  };
  const before = pending ?? judged[judged.length - 1];
  const open = allPairs(chains).filter(
    ([a, b]) =>
      !before ||
      a !== Math.min(before.first, before.second) ||
      b !== Math.max(before.first, before.second),
  );
  let best: [number, number][] = [];
  let most = Number.NEGATIVE_INFINITY;
  for (const [a, b] of open) {
    const told = gain(a, b);
    if (told > most + SAME_GAIN) [best, most] = [[[a, b]], told];
    else if (told > most - SAME_GAIN) best.push([a, b]);
  }
  const [a, b] = best[random.below(best.length)]!;
  const asked = pending ? [...judged, pending] : judged;
  const lead = (chain: number) =>
    asked.filter(({ first }) => first === chain).length -
    asked.filter(({ second }) => second === chain).length;
  const [leadA, leadB] = [lead(a), lead(b)];
  const aFirst = leadA === leadB ? random.below(2) === 0 : leadA < leadB;
  return aFirst ? { first: a, second: b } : { first: b, second: a };
}

/** What a seat is asked in an adaptive part, by chain, and what was said of it. */
export interface AskedPair {
  position: number;
  kind: TrialKind;
  firstChainId: string;
  secondChainId: string;
  choice: JudgedPair['choice'] | null;
}

/**
 * The pair that takes the place of what was laid out two trials after an answer; null where nothing changes: a
 * control stays, and so does the end of the part.
 * @param chains ids of all chains of the part's clips, in the order of their ids
 * @param answered position of the answer
 * @param seed of the part, from the sealed key
 */
export function pairAfter(
  chains: readonly string[],
  asked: readonly AskedPair[],
  answered: number,
  { seat, seed }: { seat: number; seed: number },
): [string, string] | null {
  const coming = asked.find(({ position }) => position === answered + 2);
  if (coming?.kind !== 'judged') return null;
  const placed = ({ firstChainId, secondChainId }: AskedPair) => ({
    first: chains.indexOf(firstChainId),
    second: chains.indexOf(secondChainId),
  });
  const judged = asked
    .filter(({ kind, position }) => kind === 'judged' && position <= answered)
    .flatMap((pair) => (pair.choice ? [{ ...placed(pair), choice: pair.choice }] : []));
  const pending = asked.find(({ position }) => position === answered + 1);
  const { first, second } = nextPair(
    chains.length,
    judged,
    pending?.kind === 'judged' ? placed(pending) : null,
    Random.derived(seed, `seat ${seat} trial ${answered + 2}`),
  );
  return [chains[first]!, chains[second]!];
}
