import { sortedNames } from '@/core/text/order';
import { bestOfPairs, type BestSet } from '../best';
import type { Of } from '../observation';
import type { Verdict } from '../sections/section';
import { indexJudgements } from './judgements';
import type { Consistency } from '../consistency';
import type { PairAnalysis, PairStrength } from './analyze';
import { claimText, holds } from '../claims';
import { type Findings, limitsOf, type Panel } from '../findings';
import { ALPHA, list, percent, pText } from '../words';
import { type PairRow, pairTable, panelTest } from './tests';

/** Share of choices, ties apart, against an average chain, from a strength in log odds. */
export function shareAgainstAverage(logStrength: number): number {
  return 1 / (1 + Math.exp(-logStrength));
}

function strongest(analysis: PairAnalysis): PairStrength[] {
  return analysis.overall
    .filter((row) => row.logStrength !== null)
    .sort((x, y) => (y.logStrength ?? 0) - (x.logStrength ?? 0));
}

const MOST_NAMED = 3;

/** Pairs without a preference shown, most even first. */
function unsurePairs({ pairs }: PairAnalysis, claimed: boolean): string[] {
  const evenness = ({ aWins, bWins }: PairRow) => Math.abs(aWins - bWins) / (aWins + bWins || 1);
  const texts = pairs
    .filter((row) => !claimed || row.pListenerHolm >= ALPHA)
    .sort((x, y) => evenness(x) - evenness(y))
    .map(
      ({ a, b, aWins, bWins, ties }) =>
        `${a} against ${b} (${aWins} : ${bWins}${ties > 0 ? `, ${ties} level` : ''})`,
    );
  if (texts.length === 0) return [];
  const more = texts.length - MOST_NAMED;
  const rest = more > 0 ? `; and ${more} more ${more === 1 ? 'pair' : 'pairs'}` : '';
  return [`No preference shown here: ${texts.slice(0, MOST_NAMED).join('; ')}${rest}.`];
}

/** @param ownP that listeners agree with themselves by chance */
function remarksOf(analysis: PairAnalysis, ownP: number): string[] {
  const remarks: string[] = [];
  const { orderEffect, fit } = analysis;
  if (orderEffect) {
    const share = percent(shareAgainstAverage(orderEffect.estimate));
    remarks.push(
      orderEffect.p < ALPHA
        ? `The recording presented first was chosen ${share} of the time, all else equal (${pText(orderEffect.p)}). The headline’s test is corrected for it.`
        : `Being presented first made no difference that can be told (${pText(orderEffect.p)}).`,
    );
  }
  remarks.push(
    ownP < ALPHA
      ? `Listeners agreed with themselves more than chance would have them (${pText(ownP)}): fewer circles, the same answers again.`
      : `That listeners agree with themselves was not shown (${pText(ownP)}).`,
  );
  if (fit.method === 'penalised') {
    remarks.push(
      'Some chain always won or always lost, so sizes of strengths lean on a prior; quote only their order and the tests.',
    );
  }
  return remarks;
}

/** Share of answers that chose neither. */
function levelShare({ pairs }: PairAnalysis): number {
  const sum = (of: (row: PairRow) => number) => pairs.reduce((total, row) => total + of(row), 0);
  return sum(({ ties }) => ties) / sum(({ aWins, bWins, ties }) => aWins + bWins + ties);
}

/** Why the test with the listener as the unit cannot speak. */
function withoutVerdict({ pairs }: PairAnalysis, listeners: number): string {
  if (listeners === 1) return 'One listener: too few for a verdict about a panel.';
  if (listeners === 2) return 'Two listeners: too few for a verdict about a panel.';
  return pairs.every(({ aWins, bWins }) => aWins + bWins === 0)
    ? 'Every answer was a tie: no preference was shown.'
    : 'Too few listeners leaned to any chain for a verdict about a panel.';
}

/** What the answers say of those who gave them, where they cannot speak for a panel: exact, and corrected. */
function ofTheseAlone({ pairs }: PairAnalysis): string {
  const decided = pairs.filter(({ aWins, bWins }) => aWins + bWins > 0);
  if (decided.length === 0) return 'Nobody preferred anything here; that is no finding.';
  const clearest = decided.reduce((least, row) => (row.pHolm < least.pHolm ? row : least));
  const { a, b, aWins, bWins, pHolm } = clearest;
  const [more, less] = aWins >= bWins ? [a, b] : [b, a];
  const counts = `${Math.max(aWins, bWins)} : ${Math.min(aWins, bWins)}`;
  const corrected = pairs.length > 1 ? `, corrected for ${pairs.length} pairs` : '';
  const test = `exact sign test on their answers, ${pText(pHolm)}${corrected}`;
  return pHolm < ALPHA
    ? `Of these listeners alone: ${more} was preferred to ${less}, ${counts} (${test}).`
    : `Of these listeners alone nothing is shown either; the clearest is ${more} against ${less}, ${counts} (${test}).`;
}

/** Listeners who judged everything, from which on somebody may be called the best. */
const COMPLETE_FROM = 6;

/**
 * Who may be called preferred, where the headline holds; null where nobody may. Where no errors of strengths are known:
 * who was preferred to each other chain by exact sign tests over listeners, Holm.
 */
function namedBest(
  chains: readonly string[],
  pairs: readonly PairRow[],
  best: BestSet | null,
  listeners: number,
): string | null {
  if (listeners < COMPLETE_FROM) return null;
  if (best) return best.winner;
  const beats = (chain: string) =>
    pairs.filter(({ a, b, listenersA, listenersB, pListenerHolm }) => {
      const ahead = a === chain ? listenersA > listenersB : b === chain && listenersB > listenersA;
      return ahead && pListenerHolm < ALPHA;
    }).length;
  return chains.find((chain) => beats(chain) === chains.length - 1) ?? null;
}

/** The headline's test, and who would be named, of judgements alone. */
export function pairVerdict(rows: readonly Of<'pair'>[]): Verdict {
  const data = indexJudgements(rows);
  return {
    p: panelTest(data)?.p ?? null,
    named() {
      const { length } = data.listeners;
      const winner = namedBest(data.chains, pairTable(data), bestOfPairs(rows, null), length);
      return winner === null ? [] : [winner];
    },
  };
}

/** What a silent result leaves open: the largest preference inside the intervals. */
function stillPossible(ranked: readonly PairStrength[]): string {
  const limits = ranked.flatMap(({ chain, ci95 }) => (ci95 ? [{ chain, most: ci95[1] }] : []));
  if (limits.length === 0) return 'How large a preference may be all the same cannot be told.';
  const { chain, most } = limits.reduce((x, y) => (y.most > x.most ? y : x));
  return `A preference may exist all the same: up to ${percent(shareAgainstAverage(most))} of the choices for ${chain} against an average chain lie within the 95 % intervals.`;
}

/** Among whom the best is, where the headline holds: one chain, several, or none where nobody stands out. */
export function pairLeaders(
  { overall, pairs }: PairAnalysis,
  best: BestSet | null,
  listeners: number,
): string[] {
  const chains = overall.map(({ chain }) => chain);
  const winner = namedBest(chains, pairs, best, listeners);
  if (winner !== null) return [winner];
  const known = overall.filter(({ logStrength }) => logStrength !== null).length;
  // By name: none of them is said to be before another.
  return best && best.notShownWorse.length < known ? sortedNames(best.notShownWorse) : [];
}

/** Who is best, as far as it is shown; the headline's test is under 5 %. */
function preferred(
  analysis: PairAnalysis,
  best: BestSet | null,
  ranked: readonly PairStrength[],
  listeners: number,
): string {
  const first = ranked[0]!;
  const leaders = pairLeaders(analysis, best, listeners);
  if (leaders.length === 1) return `${leaders.join('')} is preferred.`;
  if (leaders.length > 1) return `The chains differ; the best is one of ${list(leaders)}.`;
  return `The chains differ, and ${first.chain} was chosen most, but no single winner stands out.`;
}

/** Puts an analysis into words; a silent result is told with what so many judgements could have found. */
export function pairFindings(
  analysis: PairAnalysis,
  beside: { best: BestSet | null; consistency: Consistency | null },
  panel: Panel,
): Findings {
  const { panelTest: test } = analysis;
  const { claim } = panel;
  const counted = `${panel.answers} answers of ${panel.listeners} listener${panel.listeners === 1 ? '' : 's'}`;
  const limits = limitsOf(panel);
  const own = beside.consistency?.p ?? 1;
  const common = {
    remarks: [...remarksOf(analysis, own), ...unsurePairs(analysis, holds(panel.claim))],
    limits,
  };
  if (!test) {
    return {
      ...common,
      headline: withoutVerdict(analysis, panel.listeners),
      detail: `${counted}. ${ofTheseAlone(analysis)}`,
    };
  }
  const ranked = strongest(analysis);
  if (ranked.length === 0) {
    return {
      ...common,
      headline: 'The chains fall into groups never compared: no order of all can be given.',
      detail: `${counted}.`,
    };
  }
  if (!holds(claim)) {
    return {
      ...common,
      headline:
        own < ALPHA
          ? 'No preference of the panel was shown; tastes may differ.'
          : 'No preference was shown; such answers are not unusual by chance.',
      detail: `${counted}, ${claimText(claim)}. ` + stillPossible(ranked),
    };
  }
  const first = ranked[0]!;
  const interval = first.ci95
    ? ` (${percent(shareAgainstAverage(first.ci95[0]))} to ${percent(shareAgainstAverage(first.ci95[1]))})`
    : '';
  // The model's strengths are of answers that chose; level ones are told beside them.
  const size =
    analysis.fit.method === 'ml'
      ? `When a choice was made, about ${percent(shareAgainstAverage(first.logStrength ?? 0))}${interval} went to ${first.chain} against an average chain; ${percent(levelShare(analysis))} were level. `
      : '';
  return {
    ...common,
    headline: preferred(analysis, beside.best, ranked, panel.listeners),
    detail: `${size}${counted}, ${claimText(claim)}.`,
  };
}
