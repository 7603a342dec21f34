import { ALPHA } from '../words';
import type { Best } from '../best';
import { ratingHeadlineP } from '../rating/analyze';
import type { Ranking } from './plan-file';
import type { ReadingAsked, Tested } from './reading';
import { valueTask } from './value';
import type { Verdicts } from './verdicts';

export interface Prediction {
  by: string;
  role: Ranking['role'];
  about: 'winner' | 'distinguishable';
  said: string;
  result: string | null;
  outcome: 'right' | 'wrong' | 'open';
}

/** What was written down beforehand, against what came of it. */
export interface Predictions {
  entries: Prediction[];
  roles: {
    role: Ranking['role'];
    right: number;
    wrong: number;
    open: number;
    shareRight: number | null;
  }[];
}

function distinguishable({ audibility }: Verdicts, { ratings, pairP }: Tested): string | null {
  if (audibility.length > 0) {
    const heard = audibility.some(
      ({ verdict }) => verdict === 'heard' || verdict === 'heard by few',
    );
    if (heard) return 'yes';
    return audibility.every(({ verdict }) => verdict === 'no more than the limit') ? 'no' : null;
  }
  const p = ratings ? ratingHeadlineP(ratings) : pairP;
  return p !== null && p < ALPHA ? 'yes' : null;
}

/** Every prediction of the plan: right, wrong or open. */
export function readPredictions(
  best: Best,
  verdicts: Verdicts,
  tested: Tested,
  { plan }: ReadingAsked,
): Predictions {
  const task = valueTask(best);
  const set = task && best[task];
  const told = distinguishable(verdicts, tested);
  const entries = (plan.rankings ?? []).flatMap(({ by, role, winner, distinguishable: said }) => {
    const rows: Prediction[] = [];
    if (winner !== undefined) {
      const known = set?.chains.some(({ chain }) => chain === winner) ?? false;
      const open = !known || (set?.notShownWorse.includes(winner) ?? false);
      const outcome = set?.winner === winner ? 'right' : open ? 'open' : 'wrong';
      const result = set?.winner ?? null;
      rows.push({ by, role, about: 'winner', said: winner, result, outcome });
    }
    if (said !== undefined) {
      const outcome =
        said === 'perhaps' || told === null ? 'open' : said === told ? 'right' : 'wrong';
      rows.push({ by, role, about: 'distinguishable', said, result: told, outcome });
    }
    return rows;
  });
  const roles = (['engineer', 'listener'] as const).map((role) => {
    const count = (outcome: Prediction['outcome']) =>
      entries.filter((entry) => entry.role === role && entry.outcome === outcome).length;
    const [right, wrong, open] = [count('right'), count('wrong'), count('open')];
    return {
      role,
      right,
      wrong,
      open,
      shareRight: right + wrong === 0 ? null : right / (right + wrong),
    };
  });
  return { entries, roles };
}
