import Papa from 'papaparse';
import { sha256Hex } from '@/core/design/seal';
import { type Findings, findingsOf } from '@/core/statistics/pair/findings';
import type { PairAnalysis } from '@/core/statistics/pair/analyze';
import type { PairJudgement } from '@/core/statistics/pair/judgements';
import { COLUMNS, type Warning } from '@/core/statistics/results-file';
import { db, transaction } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import type { Comparison } from '@/steps/comparisons/schema';
import { comparisonOf } from '@/steps/comparisons/service';
import { type SealedKey, sealedKey } from '@/steps/sitting/schema';
import { countsOf, listSittings } from '@/steps/sitting/store';
import {
  type AnswerRow,
  type ClosedSitting,
  findClosed,
  listAnswers,
  storeAnalysis,
  type StoredAnalysis,
} from './store';

const BOOTSTRAP_SEED = 1;
const CLOSED_FIRST = 'Results open when the sitting is closed; until then nobody can look.';

export interface ResultsView {
  comparison: Comparison;
  sittings: { id: string; title: string; state: string; closedAt: Date | null }[];
  /** The chosen closed sitting; null when there is none. */
  result: Result | null;
}

export interface Result {
  sittingId: string;
  title: string;
  prompt: string;
  simulated: boolean;
  closedAt: Date;
  seal: string;
  sealHolds: boolean;
  listeners: number;
  answers: number;
  chains: string[];
  /** Null while it is being computed. */
  analysis: StoredAnalysis | null;
  findings: Findings | null;
  /** Median seconds per trial of each listener, and answers. */
  pace: { listener: string; answers: number; medianS: number }[];
}

function keyOf(sitting: ClosedSitting): SealedKey {
  return sealedKey.parse(JSON.parse(sitting.sealedKey ?? ''));
}

/** Judgements under the names that the key holds, a before b as presented. */
function judgementsOf(key: SealedKey, answers: readonly AnswerRow[]): PairJudgement[] {
  const names = new Map(key.chains.map(({ id, name }) => [id, name]));
  const nameOf = (id: string) => names.get(id) ?? id;
  return answers.map((answer) => ({
    listener: answer.listener,
    chain: nameOf(answer.firstChainId),
    chainB: nameOf(answer.secondChainId),
    first: 'a',
    response: answer.choice === 'tie' ? 'tie' : answer.choice === 'first' ? 'a' : 'b',
  }));
}

/** What the worker analyses; null when there is nothing to do. */
export async function analysisOrder(
  sittingId: string,
): Promise<{ judgements: PairJudgement[]; seed: number } | null> {
  const sitting = await findClosed(db(), sittingId);
  if (!sitting || sitting.analysis) return null;
  const judgements = judgementsOf(keyOf(sitting), await listAnswers(db(), sittingId));
  if (judgements.length === 0) {
    await keepAnalysis(sittingId, { analysis: null, warnings: [] });
    return null;
  }
  return { judgements, seed: BOOTSTRAP_SEED };
}

export async function keepAnalysis(
  sittingId: string,
  made: { analysis: PairAnalysis | null; warnings: Warning[] },
): Promise<void> {
  await transaction(async (tx) => {
    const comparisonId = await storeAnalysis(tx, sittingId, made);
    if (comparisonId) await announce(tx, comparisonId);
  });
}

async function closedSitting(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<ClosedSitting> {
  await comparisonOf(engineer, comparisonId);
  const sitting = await findClosed(db(), sittingId);
  if (sitting?.comparisonId === comparisonId) return sitting;
  const known = (await listSittings(db(), comparisonId)).some(({ id }) => id === sittingId);
  throw known ? new UserError(409, CLOSED_FIRST) : notFound('sitting');
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = Math.floor(sorted.length / 2);
  return sorted.length % 2 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
}

/** Results of a closed sitting: the one asked for, else the one closed last. */
export async function resultsOf(
  engineer: SignedIn,
  comparisonId: string,
  wanted: string | null,
): Promise<ResultsView> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const sittings = (await listSittings(db(), comparisonId)).filter(
    ({ state }) => state !== 'draft',
  );
  const view = {
    comparison,
    sittings: sittings.map(({ id, title, state, closedAt }) => ({ id, title, state, closedAt })),
  };
  const closed = sittings
    .filter(({ state }) => state === 'closed')
    .sort((x, y) => Number(y.closedAt) - Number(x.closedAt));
  const chosen = wanted ?? closed[0]?.id;
  if (!chosen || !closed.some(({ id }) => id === chosen)) return { ...view, result: null };
  const sitting = await closedSitting(engineer, comparisonId, chosen);
  const answers = await listAnswers(db(), sitting.id);
  const key = keyOf(sitting);
  const byListener = new Map<string, AnswerRow[]>();
  for (const answer of answers) {
    byListener.set(answer.listener, [...(byListener.get(answer.listener) ?? []), answer]);
  }
  const counts = await countsOf(db(), sitting.id);
  const analysis = sitting.analysis;
  return {
    ...view,
    result: {
      sittingId: sitting.id,
      title: sitting.title,
      prompt: sitting.prompt,
      simulated: sitting.simulated,
      closedAt: sitting.closedAt ?? new Date(0),
      seal: sitting.seal ?? '',
      sealHolds: (await sha256Hex(sitting.sealedKey ?? '')) === sitting.seal,
      listeners: counts.joined,
      answers: answers.length,
      chains: key.chains.map(({ name }) => name),
      analysis,
      findings: analysis?.analysis
        ? findingsOf(analysis.analysis, {
            listeners: byListener.size,
            judgements: answers.length,
            source: comparison.sourceName,
            passage: comparison.passageName,
          })
        : null,
      pace: [...byListener].map(([listener, own]) => ({
        listener,
        answers: own.length,
        medianS: median(own.map(({ durationS }) => durationS)),
      })),
    },
  };
}

export interface Download {
  fileName: string;
  contentType: string;
  body: string;
}

/** The exact text that was sealed: `sha256sum` of this file is the seal. */
export async function keyFile(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<Download> {
  const sitting = await closedSitting(engineer, comparisonId, sittingId);
  return {
    fileName: `key-${sittingId.slice(0, 8)}.json`,
    contentType: 'application/json; charset=utf-8',
    body: sitting.sealedKey ?? '',
  };
}

/** All answers as a results file (docs/formats.md), with what was heard in further columns. */
export async function answersCsv(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<Download> {
  const sitting = await closedSitting(engineer, comparisonId, sittingId);
  const { sourceName } = await comparisonOf(engineer, comparisonId);
  const answers = await listAnswers(db(), sittingId);
  const judgements = judgementsOf(keyOf(sitting), answers);
  const fields = [
    ...COLUMNS,
    'word_a',
    'word_b',
    'heard_a_s',
    'heard_b_s',
    'switches',
    'duration_s',
    ...(sitting.simulated ? ['simulated'] : []),
  ];
  const data = answers.map((answer, i) => {
    const { listener, chain, chainB, first, response } = judgements[i];
    const { position, firstWord, secondWord, switches } = answer;
    return [
      listener,
      sourceName,
      'alone raw',
      position,
      'pair',
      chain,
      chainB,
      first,
      response,
      1,
      '',
      firstWord,
      secondWord,
      answer.firstHeardS.toFixed(1),
      answer.secondHeardS.toFixed(1),
      switches,
      answer.durationS.toFixed(1),
      ...(sitting.simulated ? ['yes'] : []),
    ];
  });
  return {
    fileName: `answers-${sittingId.slice(0, 8)}.csv`,
    contentType: 'text/csv; charset=utf-8',
    body: Papa.unparse({ fields, data }, { escapeFormulae: true, newline: '\r\n' }),
  };
}

export async function analysisJson(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<Download> {
  const sitting = await closedSitting(engineer, comparisonId, sittingId);
  if (!sitting.analysis)
    throw new UserError(409, 'The analysis is still being made; wait a moment.');
  return {
    fileName: `analysis-${sittingId.slice(0, 8)}.json`,
    contentType: 'application/json; charset=utf-8',
    body: JSON.stringify(
      { pair: sitting.analysis.analysis, warnings: sitting.analysis.warnings },
      null,
      1,
    ),
  };
}
