import { db } from '@/platform/database';
import { openWork } from '@/platform/jobs';
import type { SignedIn } from '@/platform/sign-in/service';
import { listChains } from '@/steps/chains/store';
import type { Comparison } from '@/steps/comparisons/schema';
import type { Overview, StepName } from './steps';
import { comparisonOf } from '@/steps/comparisons/service';
import { listComparisonIds } from '@/steps/comparisons/store';
import { listClipSets } from '@/steps/match/store';
import { countsOf, listSittings } from '@/steps/sitting/store';
import { checkedTakes } from '@/steps/takes/service';

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
    next: nextStep(),
    work: work.map(({ id, label, state, progress, remark }) => ({
      id,
      label,
      state,
      progress,
      remark,
    })),
  };

  function nextStep(): Overview['next'] {
    if (chains.length < 2) return { step: 'chains', text: 'Name at least two chains.' };
    if (assigned < 2) return { step: 'takes', text: 'Drop a take of each chain.' };
    if (!matched) {
      return being
        ? { step: 'match', text: 'The clips are being made; wait a moment.' }
        : { step: 'match', text: 'Mark the passage and match the clips.' };
    }
    if (open)
      return { step: 'sitting', text: 'Share the link; close when the panel has answered.' };
    if (closed.length > 0) return { step: 'results', text: 'Read what the panel heard.' };
    return { step: 'sitting', text: 'Plan the sitting, seal it, invite.' };
  }
}

export interface ComparisonLine {
  comparison: Comparison;
  next: string;
  step: StepName;
  chains: number;
  listeners: number;
  answers: number;
}

/** The bank's list: each comparison with what was paid in, and what to do next. */
export async function comparisonList(engineer: SignedIn): Promise<ComparisonLine[]> {
  const lines: ComparisonLine[] = [];
  for (const id of await listComparisonIds(db(), engineer.studioId)) {
    const { comparison, next } = await overviewOf(engineer, id);
    const counts = [];
    for (const sitting of await listSittings(db(), id))
      counts.push(await countsOf(db(), sitting.id));
    lines.push({
      comparison,
      next: next.text,
      step: next.step,
      chains: (await listChains(db(), id)).length,
      listeners: counts.reduce((sum, { joined }) => sum + joined, 0),
      answers: counts.reduce((sum, { answers }) => sum + answers, 0),
    });
  }
  return lines;
}
