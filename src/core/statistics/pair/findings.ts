import { detectableShare } from '@/core/design/power';
import type { PairAnalysis, PairStrength } from './analyze';
import type { PairRow } from './tests';

const ALPHA = 0.05;

/** What an analysis says, in plain words; the strongest claim it supports and no more. */
export interface Findings {
  /** One sentence: the finding itself. */
  headline: string;
  /** The numbers behind it. */
  detail: string;
  /** The best chain and those over which it was not shown to be preferred; empty when no difference was shown. */
  leaders: string[];
  /** Pairs without a preference shown, most even first. */
  unsure: { a: string; b: string; text: string }[];
  /** Further observations: order effect, consistency, cautions. */
  remarks: string[];
  /** What the result does not show. */
  limits: string[];
}

/** Share of choices, ties apart, against an average chain, from a strength in log odds. */
export function shareAgainstAverage(logStrength: number): number {
  return 1 / (1 + Math.exp(-logStrength));
}

function percent(share: number): string {
  return `${Math.round(100 * share)} %`;
}

/** A p-value as it is usually written. */
export function pText(p: number): string {
  if (p < 0.001) return 'p\u00a0<\u00a00.001';
  return `p\u00a0=\u00a0${p.toFixed(p < 0.1 ? 3 : 2)}`;
}

function list(names: readonly string[]): string {
  if (names.length < 2) return names.join('');
  return `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;
}

function wins(row: PairRow, chain: string): [number, number] {
  return row.a === chain ? [row.aWins, row.bWins] : [row.bWins, row.aWins];
}

function strongest(analysis: PairAnalysis): PairStrength[] {
  return analysis.overall
    .filter((row) => row.logStrength !== null)
    .sort((x, y) => (y.logStrength ?? 0) - (x.logStrength ?? 0));
}

/** The best chain, and those whose direct comparison with it was not decided. */
function leadersOf(analysis: PairAnalysis, ranked: readonly PairStrength[]): string[] {
  const best = ranked[0].chain;
  const level = ranked.slice(1).filter(({ chain }) => {
    const row = analysis.pairs.find(
      ({ a, b }) => (a === best && b === chain) || (a === chain && b === best),
    );
    if (!row) return true;
    const [won, lost] = wins(row, best);
    return row.pListenerHolm >= ALPHA || won <= lost;
  });
  return [best, ...level.map(({ chain }) => chain)];
}

function unsurePairs(analysis: PairAnalysis): Findings['unsure'] {
  const evenness = ({ aWins, bWins }: PairRow) => Math.abs(aWins - bWins) / (aWins + bWins || 1);
  return analysis.pairs
    .filter((row) => row.pListenerHolm >= ALPHA)
    .sort((x, y) => evenness(x) - evenness(y))
    .map(({ a, b, aWins, bWins, ties }) => ({
      a,
      b,
      text: `${a} against ${b} (${aWins} : ${bWins}${ties > 0 ? `, ${ties} level` : ''})`,
    }));
}

function remarksOf(analysis: PairAnalysis): string[] {
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
  const consistent = analysis.circularTriads.filter(({ zeta }) => zeta !== null);
  if (consistent.length > 0) {
    const low = consistent.filter(({ zeta }) => (zeta ?? 1) < 0.5);
    remarks.push(
      low.length === 0
        ? `Each of the ${consistent.length} listeners who judged all pairs decidedly was consistent with themselves (ζ at least 0.5).`
        : `${low.length} of ${consistent.length} listeners who judged all pairs decidedly often contradicted themselves (ζ under 0.5).`,
    );
  }
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

/** Puts an analysis into words; a silent result is told with what so many judgements could have found. */
export function findingsOf(
  analysis: PairAnalysis,
  panel: { listeners: number; judgements: number; source: string; passage: string },
): Findings {
  const { panelTest: test } = analysis;
  const counted = `${panel.judgements} answers of ${panel.listeners} listener${panel.listeners === 1 ? '' : 's'}`;
  const limits = [
    `It holds for ${panel.source}, ${panel.passage}, this room and this panel; it says nothing of other voices or songs.`,
    'A preference is not a fact about the gear: it includes distance, position and the performance of these takes.',
  ];
  const common = { unsure: unsurePairs(analysis), remarks: remarksOf(analysis), limits };
  if (!test) {
    return {
      ...common,
      headline: withoutVerdict(analysis, panel.listeners),
      detail: `${counted}. ${ofTheseAlone(analysis)}`,
      leaders: [],
    };
  }
  const ranked = strongest(analysis);
  if (ranked.length === 0) {
    return {
      ...common,
      headline: 'The chains fall into groups never compared: no order of all can be given.',
      detail: `${counted}.`,
      leaders: [],
    };
  }
  if (test.p >= ALPHA) {
    const perPair = Math.floor(panel.judgements / Math.max(1, analysis.pairs.length));
    const findable = detectableShare(perPair, analysis.pairs.length);
    return {
      ...common,
      headline: 'No preference was shown; such answers are not unusual by chance.',
      detail:
        `${counted}, ${pText(test.p)}. ` +
        (findable === null
          ? 'So few judgements per pair could not have shown even a unanimous preference.'
          : `A pair of chains chosen ${percent(findable)} to ${percent(1 - findable)} would have been found 4 times in 5; smaller preferences may exist.`),
      leaders: [],
    };
  }
  const leaders = leadersOf(analysis, ranked);
  const [best] = ranked;
  const interval = best.ci95
    ? ` (${percent(shareAgainstAverage(best.ci95[0]))} to ${percent(shareAgainstAverage(best.ci95[1]))})`
    : '';
  // The model's strengths are of answers that chose; level ones are told beside them.
  const size =
    analysis.fit.method === 'ml'
      ? `When a choice was made, about ${percent(shareAgainstAverage(best.logStrength ?? 0))}${interval} went to ${best.chain} against an average chain; ${percent(levelShare(analysis))} were level. `
      : '';
  const beaten = ranked.map(({ chain }) => chain).filter((chain) => !leaders.includes(chain));
  let headline: string;
  if (leaders.length === 1) headline = `${best.chain} is preferred.`;
  else if (leaders.length === 2 && beaten.length > 0) {
    headline = `${list(leaders)} lead; between them no preference was shown.`;
  } else if (beaten.length > 0) {
    headline = `${best.chain} was chosen most; it is preferred to ${list(beaten)}; against the rest no preference was shown.`;
  } else
    headline = `The chains differ, and ${best.chain} was chosen most, but no single winner stands out.`;
  return { ...common, headline, detail: `${size}${counted}, ${pText(test.p)}.`, leaders };
}
