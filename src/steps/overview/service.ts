import { db } from '@/platform/database';
import { openWork } from '@/platform/jobs';
import { LIST_PAGE } from '@/platform/list-query';
import type { SignedIn } from '@/platform/sign-in/service';
import { chainCounts, listChains } from '@/steps/chains/store';
import type { ComparisonQuery, ListedComparison } from '@/steps/comparisons/schema';
import { comparisonOf } from '@/steps/comparisons/service';
import { countComparisons, listComparisons } from '@/steps/comparisons/store';
import { clipSetStates, listClipSets } from '@/steps/match/store';
import { listSittings, sittingCounts } from '@/steps/sitting/store';
import { checkedTakes } from '@/steps/takes/service';
import { assignedCounts } from '@/steps/takes/store';
import { nextStep, type Overview } from './steps';

export async function overviewOf(engineer: SignedIn, comparisonId: string): Promise<Overview> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const chains = await listChains(db(), comparisonId);
  const takes = await checkedTakes(db(), comparisonId);
  const sets = await listClipSets(db(), comparisonId);
  const being = sets.some(({ state }) => state === 'waiting');
  const sittings = await listSittings(db(), comparisonId);
  const work = await openWork(db(), comparisonId);
  const assigned = new Set(
    takes.flatMap(({ state, chainId, programme }) =>
      state === 'ready' && chainId && programme === 'performance' ? [chainId] : [],
    ),
  ).size;
  const problems = takes.filter(({ checks, overrides }) =>
    checks.some(
      ({ severity, check }) =>
        severity === 'problem' && !overrides.some((one) => one.check === check),
    ),
  ).length;
  const open = sittings.find(({ state }) => state === 'open');
  const closed = sittings.filter(({ state }) => state === 'closed');
  const matched = sets.find(({ state }) => state === 'ready')?.facts;
  const states: Overview['states'] = {
    question: { word: 'written', locked: false, settled: true },
    chains: {
      word: chains.length === 0 ? 'none yet' : String(chains.length),
      locked: false,
      settled: chains.length > 1,
    },
    takes: {
      word:
        takes.length === 0
          ? 'none yet'
          : `${assigned} of ${chains.length}${problems > 0 ? ', look' : ''}`,
      locked: false,
      settled: assigned > 1 && assigned === chains.length && problems === 0,
    },
    match: {
      word: matched
        ? `±${Math.max(0.01, matched.worstResidualLu).toFixed(2)} LU`
        : being
          ? 'being made'
          : assigned < 2
            ? 'needs two takes'
            : 'to do',
      locked: assigned < 2 && sets.length === 0,
      settled: Boolean(matched),
    },
    sitting: {
      word: open
        ? 'sealed, open'
        : closed.length > 0
          ? 'closed'
          : matched
            ? 'to plan'
            : 'needs clips',
      locked: !matched && sittings.length === 0,
      settled: sittings.some(({ state }) => state !== 'draft'),
    },
    results: {
      word: closed.length > 0 ? 'open' : 'opens at close',
      locked: closed.length === 0,
      settled: closed.length > 0,
    },
  };
  return {
    comparison,
    simulatedTakes: takes.filter(({ simulated }) => simulated).length,
    states,
    next: nextStep({
      chains: chains.length,
      assigned,
      matched: Boolean(matched),
      being,
      open: Boolean(open),
      closed: closed.length > 0,
    }),
    work: work.map(({ id, label, state, progress, remark }) => ({
      id,
      label,
      state,
      progress,
      remark,
    })),
  };
}

export interface ComparisonLine extends ListedComparison {
  next: string;
  chains: number;
  listeners: number;
  answers: number;
}

export interface ComparisonList {
  query: ComparisonQuery;
  lines: ComparisonLine[];
  /** Comparisons that hold the text that is looked for. */
  found: number;
  all: number;
}

/** A page of the bank's list: each comparison with what was paid in, and what to do next. Six queries, whatever its size. */
export async function comparisonList(
  { studioId }: SignedIn,
  query: ComparisonQuery,
): Promise<ComparisonList> {
  const counts = await countComparisons(db(), studioId, query.q);
  // Whoever asks for a page behind the last gets the last.
  const page = Math.max(1, Math.min(query.page, Math.ceil(counts.found / LIST_PAGE)));
  const listed = await listComparisons(db(), studioId, { ...query, page });
  const ids = listed.map(({ id }) => id);
  const [chains, takes, sets, sittings] = await Promise.all([
    chainCounts(db(), ids),
    assignedCounts(db(), ids),
    clipSetStates(db(), ids),
    sittingCounts(db(), ids),
  ]);
  const lines = listed.map((comparison) => {
    const own = <T extends { comparisonId: string }>(rows: readonly T[]) =>
      rows.find(({ comparisonId }) => comparisonId === comparison.id);
    const sitting = own(sittings);
    const standing = {
      chains: own(chains)?.chains ?? 0,
      assigned: own(takes)?.assigned ?? 0,
      matched: own(sets)?.matched ?? false,
      being: own(sets)?.being ?? false,
      open: sitting?.open ?? false,
      closed: sitting?.closed ?? false,
    };
    return {
      ...comparison,
      next: nextStep(standing).text,
      chains: standing.chains,
      listeners: sitting?.listeners ?? 0,
      answers: sitting?.answers ?? 0,
    };
  });
  return { query: { ...query, page }, lines, ...counts };
}
