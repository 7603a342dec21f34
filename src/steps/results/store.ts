import type { Db } from '@/platform/database';
import type { PairAnalysis } from '@/core/statistics/pair/analyze';
import type { Warning } from '@/core/statistics/results-file';

export interface StoredAnalysis {
  analysis: PairAnalysis | null;
  warnings: Warning[];
}

export interface ClosedSitting {
  id: string;
  comparisonId: string;
  state: 'draft' | 'open' | 'closed';
  title: string;
  prompt: string;
  seal: string | null;
  sealedKey: string | null;
  simulated: boolean;
  closedAt: Date | null;
  analysis: StoredAnalysis | null;
}

/** A sitting with its key, only once it is closed: before, key and analysis are not even read. */
export async function findClosed(db: Db, id: string): Promise<ClosedSitting | null> {
  const [row] = await db.rows<ClosedSitting>(
    `SELECT id, comparison_id AS "comparisonId", state, title, prompt, seal,
       sealed_key AS "sealedKey", simulated, closed_at AS "closedAt", analysis
     FROM sitting WHERE id = $1 AND state = 'closed'`,
    [id],
  );
  return row ?? null;
}

export interface AnswerRow {
  listener: string;
  seat: number;
  position: number;
  firstChainId: string;
  secondChainId: string;
  firstWord: string;
  secondWord: string;
  choice: 'first' | 'second' | 'tie';
  firstHeardS: number;
  secondHeardS: number;
  switches: number;
  durationS: number;
}

/** All answers of a closed sitting with their key. */
export async function listAnswers(db: Db, sittingId: string): Promise<AnswerRow[]> {
  return db.rows<AnswerRow>(
    `SELECT listener.alias AS listener, answer.seat, answer.position,
       first_chain_id AS "firstChainId", second_chain_id AS "secondChainId",
       first_word AS "firstWord", second_word AS "secondWord", choice,
       first_heard_s AS "firstHeardS", second_heard_s AS "secondHeardS", switches,
       duration_s AS "durationS"
     FROM answer JOIN listener ON listener.id = answer.listener_id
     JOIN trial ON trial.sitting_id = answer.sitting_id AND trial.seat = answer.seat
       AND trial.position = answer.position
     JOIN sitting ON sitting.id = answer.sitting_id AND sitting.state = 'closed'
     WHERE answer.sitting_id = $1 ORDER BY answer.seat, answer.position`,
    [sittingId],
  );
}

export async function storeAnalysis(
  db: Db,
  sittingId: string,
  analysis: StoredAnalysis,
): Promise<string | null> {
  const [row] = await db.rows<{ id: string }>(
    `UPDATE sitting SET analysis = $2 WHERE id = $1 AND state = 'closed'
     RETURNING comparison_id AS id`,
    [sittingId, JSON.stringify(analysis)],
  );
  return row?.id ?? null;
}
