import { sortedNames } from '@/core/text/order';
import { analyzeAudibility } from '../audibility';
import type { Best } from '../best';
import type { Warning } from '../findings';
import { judged, type Observation, ofOneScale } from '../observation';
import { indexJudgements } from '../pair/judgements';
import { pairTable, panelTest } from '../pair/tests';
import { analyzeRatings } from '../rating/analyze';
import type { ResultsFile } from '../results-file';
import { readBest } from './best';
import { type Bridge, readBridge } from './bridge';
import { type Camps, readCamps } from './camps';
import { type ReadCell, readCells } from './cells';
import { type Interaction, readInteractions } from './interactions';
import { type Links, readLinks } from './links';
import { type ReadListener, readListeners } from './listeners';
import { type Predictions, readPredictions } from './predictions';
import type { ReadingAsked, ReadingRows, Tested } from './reading';
import { readValue, type Value } from './value';
import { readVerdicts, type Verdicts } from './verdicts';

/** Counted up whenever the same observations give another reading, so that what is stored is made anew. */
export const READING_VERSION = 2;

/** Parts set against each other; see docs/methods.md. */
export interface Reading {
  input: {
    rowsUsed: number;
    rowsSkipped: ResultsFile['skipped'];
    listeners: number;
    chains: number;
    sittings: number;
  };
  cells: ReadCell[];
  interactions: Interaction[];
  listeners: ReadListener[];
  camps: Camps | null;
  links: Links;
  best: Best;
  verdicts: Verdicts;
  bridge: Bridge | null;
  value: Value | null;
  predictions: Predictions;
  warnings: Warning[];
}

function testedOf({ pair, rating, forced }: ReadingRows): Tested {
  const data = indexJudgements(pair);
  return {
    pairs: pair.length === 0 ? [] : pairTable(data),
    pairP: pair.length === 0 ? null : (panelTest(data)?.p ?? null),
    ratings: rating.length === 0 ? null : analyzeRatings(rating, [], null).analysis,
    audibility: analyzeAudibility(forced),
  };
}

const chainsIn = (observations: readonly Observation[]) =>
  sortedNames(
    observations.flatMap((one) => ('chainB' in one ? [one.chain, one.chainB] : [one.chain])),
  );

/**
 * Reads across sources, contexts, listeners, sittings and the parts of chains.
 * @param file what was answered, with its skipped rows and warnings
 */
export function readAcross(
  { observations, skipped, warnings }: ResultsFile,
  asked: ReadingAsked,
): Reading {
  const rows: ReadingRows = {
    pair: observations.filter(judged.pair),
    rating: ofOneScale(observations.filter(judged.rating)),
    forced: observations.filter(judged.forced),
  };
  const chains = chainsIn(observations);
  const { plan } = asked;
  const known = (name: string | undefined) => name !== undefined && chains.includes(name);
  const named = [plan.reference, ...(plan.rankings ?? []).map(({ winner }) => winner)];
  const unknown = named.filter((name) => name !== undefined && !known(name));
  const tested = testedOf(rows);
  const cells = readCells(rows);
  const interactions = readInteractions(rows, cells.result);
  const camps = readCamps(rows, asked.seed);
  const links = readLinks(rows, asked);
  const best = readBest(rows, asked);
  const verdicts = readVerdicts(rows, tested, asked);
  const bridge = readBridge(rows, known(plan.reference) ? plan.reference : undefined);
  const value = readValue(rows, best.result, asked);
  return {
    input: {
      rowsUsed: observations.length,
      rowsSkipped: skipped,
      listeners: sortedNames(observations.map(({ listener }) => listener)).length,
      chains: chains.length,
      sittings: sortedNames(observations.map(({ sitting }) => sitting)).length,
    },
    cells: cells.result,
    interactions: interactions.result,
    listeners: readListeners(rows),
    camps: camps.result,
    links: links.result,
    best: best.result,
    verdicts,
    bridge: bridge.result,
    value: value.result,
    predictions: readPredictions(best.result, verdicts, tested, asked),
    warnings: [
      ...warnings,
      ...(unknown.length > 0
        ? [
            {
              code: 'unknown-chain',
              section: 'plan',
              message: `the plan names chains that nobody heard: ${unknown.join(', ')}`,
            },
          ]
        : []),
      ...[cells, interactions, camps, links, best, bridge, value].flatMap((read) => read.warnings),
    ],
  };
}
