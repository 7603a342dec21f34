import type { Db } from '@/platform/database';

export interface SelfTestRow {
  id: string;
  at: Date;
  title: string;
  token: string;
  state: 'open' | 'closed';
  seal: string;
  heardBefore: boolean;
  answered: number;
  trials: number;
  /** The two chains, or all of them, in the order of their ids. */
  chainIds: string[];
  /** Whether all chains of the clips were asked about. */
  all: boolean;
}

/** Somebody's tests over a comparison, the newest first. */
export async function listSelfTests(
  db: Db,
  comparisonId: string,
  accountId: string,
  most: number,
): Promise<SelfTestRow[]> {
  return db.rows<SelfTestRow>(
    `SELECT sitting.id, created_at AS at, title, token, state, seal, heard_before AS "heardBefore",
       (SELECT count(*)::int FROM answer WHERE answer.sitting_id = sitting.id) AS answered,
       (SELECT count(*)::int FROM trial WHERE trial.sitting_id = sitting.id) AS trials,
       first_chain_id IS NULL AS all,
       CASE WHEN first_chain_id IS NULL
         THEN (SELECT jsonb_agg(chain_id ORDER BY chain_id) FROM clip WHERE clip.clip_set_id = part.clip_set_id)
         ELSE jsonb_build_array(least(first_chain_id, second_chain_id), greatest(first_chain_id, second_chain_id))
       END AS "chainIds"
     FROM sitting JOIN part ON part.sitting_id = sitting.id AND part.number = 1
     WHERE sitting.comparison_id = $1 AND tester_id = $2 AND purpose = 'self-test' AND state <> 'draft'
     ORDER BY created_at DESC LIMIT $3`,
    [comparisonId, accountId, most],
  );
}
