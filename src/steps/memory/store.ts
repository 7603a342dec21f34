import type { Db } from '@/platform/database';
import { LIST_PAGE } from '@/platform/list-query';
import { one } from '@/platform/one';
import type { HeardQuery } from './schema';

/** Where something was heard, and by whom. */
interface HeardWhere {
  comparisonId: string;
  title: string;
  sittingId: string;
  part: number;
  closedAt: Date;
  simulated: boolean;
  sealBroken: boolean;
  source: string;
  passage: string;
  context: string;
  listeners: number;
  chains: number;
}

/** How a chain stood there. */
export interface StandingRow extends HeardWhere {
  chainId: string;
  chain: string;
  unit: 'share' | 'points';
  value: number | null;
  low: number | null;
  high: number | null;
  leads: boolean;
  leaders: number;
  claimed: boolean;
}

const WHERE_COLUMNS = `comparison.id AS "comparisonId", comparison.title, sitting.id AS "sittingId", part.number AS part,
  closed_at AS "closedAt", sitting.simulated, seal_broken_at IS NOT NULL AS "sealBroken", source.name AS source,
  passage.name AS passage, context`;
/** From a standing to all that it is of; those of removed comparisons are not shown. */
const STANDING_OF = `FROM chain_standing AS standing
  JOIN sitting ON sitting.id = standing.sitting_id
  JOIN comparison ON comparison.id = sitting.comparison_id AND comparison.deleted_at IS NULL
  JOIN part ON part.sitting_id = standing.sitting_id AND part.number = standing.part
  JOIN clip_set ON clip_set.id = part.clip_set_id
  JOIN passage ON passage.id = clip_set.passage_id
  JOIN source ON source.id = passage.source_id`;
/** Chains that hold an item of a studio, removed ones too: what was heard was heard. */
const HOLDING = `SELECT chain_id FROM chain_item JOIN gear ON gear.id = gear_id AND owner_id = $1 WHERE gear_id = $2`;

/** Of all chains that hold an item, how they stood wherever they were liked or not; newest first, a page of them. */
export async function standingsWith(
  db: Db,
  ownerId: string,
  gearId: string,
  page: number,
): Promise<StandingRow[]> {
  return db.rows<StandingRow>(
    `SELECT ${WHERE_COLUMNS}, standing.listeners, standing.chains, chain.id AS "chainId", chain.name AS chain, unit, value, low, high, leads, leaders, claimed
     ${STANDING_OF} JOIN chain ON chain.id = standing.chain_id
     WHERE standing.chain_id IN (${HOLDING}) AND unit <> 'words'
     ORDER BY closed_at DESC, sitting.id, part.number, lower(chain.name) LIMIT $3 OFFSET $4`,
    [ownerId, gearId, LIST_PAGE, (page - 1) * LIST_PAGE],
  );
}

/** How often chains that hold an item came out in each way, and how many of these were simulated. */
export async function countStandingsWith(
  db: Db,
  ownerId: string,
  gearId: string,
): Promise<
  { claimed: boolean; leads: boolean; leaders: number; simulated: boolean; times: number }[]
> {
  return db.rows(
    `SELECT standing.claimed, leads, least(leaders, 2) AS leaders, sitting.simulated, count(*)::int AS times
     ${STANDING_OF} WHERE standing.chain_id IN (${HOLDING}) AND unit <> 'words'
     GROUP BY 1, 2, 3, 4`,
    [ownerId, gearId],
  );
}

export interface TickedRow {
  word: string;
  /** How often it was ticked for a chain with the item, and by how many listeners it could have been. */
  count: number;
  of: number;
  /** In how many sittings chains differed in it. */
  differs: number;
}

/** Words that were ticked for chains with an item, the commonest first. */
export async function wordsWith(
  db: Db,
  ownerId: string,
  gearId: string,
  most: number,
): Promise<TickedRow[]> {
  return db.rows<TickedRow>(
    `WITH described AS (SELECT standing.words, standing.listeners ${STANDING_OF}
       WHERE standing.chain_id IN (${HOLDING}) AND unit = 'words')
     SELECT word, sum(count)::int AS count, (SELECT sum(listeners)::int FROM described) AS of,
       (count(*) FILTER (WHERE differs))::int AS differs
     FROM described, jsonb_to_recordset(words) AS ticked (word text, count int, differs boolean)
     GROUP BY word ORDER BY 2 DESC, word LIMIT $3`,
    [ownerId, gearId, most],
  );
}

export interface HolderRow {
  chainId: string;
  chain: string;
  comparisonId: string;
  title: string;
}

/** Chains that hold an item now, in the newest comparisons. */
export async function holdersOf(
  db: Db,
  ownerId: string,
  gearId: string,
  most: number,
): Promise<{ rows: HolderRow[]; all: number }> {
  const rows = await db.rows<HolderRow & { all: number }>(
    `SELECT chain.id AS "chainId", chain.name AS chain, comparison.id AS "comparisonId", title, count(*) OVER ()::int AS all
     FROM chain JOIN comparison ON comparison.id = comparison_id AND comparison.deleted_at IS NULL
     WHERE chain.deleted_at IS NULL AND chain.id IN (${HOLDING})
     ORDER BY comparison.created_at DESC, lower(chain.name) LIMIT $3`,
    [ownerId, gearId, most],
  );
  return { rows, all: rows[0]?.all ?? 0 };
}

export interface GainRow {
  source: string;
  lines: number;
  least: number;
  median: number;
  most: number;
}

/** Gains that were logged at the stand for performances through chains with an item, by source. */
export async function gainsWith(
  db: Db,
  ownerId: string,
  gearId: string,
  most: number,
): Promise<GainRow[]> {
  return db.rows<GainRow>(
    `SELECT source.name AS source, count(*)::int AS lines, min(gain_db) AS least, max(gain_db) AS most,
       percentile_cont(0.5) WITHIN GROUP (ORDER BY gain_db) AS median
     FROM run_line JOIN comparison ON comparison.id = comparison_id AND deleted_at IS NULL
     JOIN source ON source.id = source_id
     WHERE chain_id IN (${HOLDING}) AND run_line.programme = 'performance' AND done AND gain_db IS NOT NULL
     GROUP BY source.name ORDER BY count(*) DESC, source.name LIMIT $3`,
    [ownerId, gearId, most],
  );
}

/** A place in which a panel was asked what it likes. */
export interface HeardRow extends HeardWhere {
  question: string;
  unit: 'share' | 'points';
  claimed: boolean;
  /** Those that may be the best there, best first. */
  leaders: { chain: string; value: number | null; low: number | null; high: number | null }[];
}

const HEARD_ORDERS: Record<HeardQuery['sort'], string> = {
  newest: 'closed_at DESC, sitting.id, part.number',
  oldest: 'closed_at, sitting.id, part.number',
};
/** Places of a studio in whose names, or in whose chains' names, a text is. */
const HEARD = `${STANDING_OF} JOIN chain ON chain.id = standing.chain_id WHERE comparison.owner_id = $1 AND unit <> 'words'
  AND ($2 = '' OR position(lower($2) IN lower(concat_ws(' ', comparison.title, comparison.question, source.name,
    passage.name, context))) > 0 OR EXISTS (SELECT 1 FROM chain_standing AS other JOIN chain AS named ON named.id = other.chain_id
    WHERE other.sitting_id = standing.sitting_id AND other.part = standing.part AND position(lower($2) IN lower(named.name)) > 0))`;

/** A page of what was heard, over all comparisons. */
export async function listHeard(
  db: Db,
  ownerId: string,
  { q, sort, page }: HeardQuery,
): Promise<HeardRow[]> {
  return db.rows<HeardRow>(
    `SELECT ${WHERE_COLUMNS}, comparison.question, max(standing.listeners) AS listeners, max(standing.chains) AS chains,
       min(unit) AS unit, bool_or(standing.claimed) AS claimed,
       coalesce(jsonb_agg(jsonb_build_object('chain', chain.name, 'value', value, 'low', low, 'high', high)
         ORDER BY value DESC NULLS LAST, lower(chain.name)) FILTER (WHERE leads), '[]') AS leaders
     ${HEARD} GROUP BY comparison.id, sitting.id, part.number, source.name, passage.name, context
     ORDER BY ${HEARD_ORDERS[sort]} LIMIT $3 OFFSET $4`,
    [ownerId, q, LIST_PAGE, (page - 1) * LIST_PAGE],
  );
}

/** In how many places a text was found, and how many there are. */
export async function countHeard(
  db: Db,
  ownerId: string,
  q: string,
): Promise<{ found: number; all: number }> {
  return one(
    db.rows<{ found: number; all: number }>(
      `SELECT (SELECT count(DISTINCT (standing.sitting_id, standing.part))::int ${HEARD}) AS found,
         (SELECT count(DISTINCT (standing.sitting_id, standing.part))::int FROM chain_standing AS standing
          JOIN sitting ON sitting.id = standing.sitting_id JOIN comparison ON comparison.id = sitting.comparison_id
          WHERE owner_id = $1 AND comparison.deleted_at IS NULL AND unit <> 'words') AS all`,
      [ownerId, q],
    ),
  );
}
