import type { Outcomes } from '@/core/memory/shortest-bench';
import type { Db } from '@/platform/database';
import { LIST_PAGE } from '@/platform/list-query';
import { one } from '@/platform/one';
import { SEEN, STUDIO } from '@/platform/sign-in/seen';
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
  /** Names were told after each part. */
  exploratory: boolean;
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
  closed_at AS "closedAt", sitting.simulated, seal_broken_at IS NOT NULL AS "sealBroken",
  sitting.reveal = 'after each part' AS exploratory, source.name AS source,
  passage.name AS passage, context`;
/** From a standing to all that it is of; those of removed comparisons are not shown. */
const STANDING_OF = `FROM chain_standing AS standing
  JOIN sitting ON sitting.id = standing.sitting_id
  JOIN comparison ON comparison.id = sitting.comparison_id AND comparison.deleted_at IS NULL AND ${SEEN}
  JOIN part ON part.sitting_id = standing.sitting_id AND part.number = standing.part
  JOIN clip_set ON clip_set.id = part.clip_set_id
  JOIN passage ON passage.id = clip_set.passage_id
  JOIN source ON source.id = passage.source_id`;
/** Chains that hold an item of a studio, removed ones too: what was heard was heard. */
const HOLDING = `SELECT chain_id FROM chain_item JOIN gear ON gear.id = gear_id AND owner_id = ${STUDIO} WHERE gear_id = $2`;

/** All that is written of a place. */
const PLACE_TEXT = `concat_ws(' ', comparison.title, comparison.question, source.name, passage.name, context)`;
/** What panels liked, blind to the end: nothing that was told or broken. */
const COUNTS = `unit <> 'words' AND seal_broken_at IS NULL AND sitting.reveal <> 'after each part'`;
/** What a chain is over all comparisons: its gear, one of it or a pair; null in words, and for what is made of other chains. */
const SAME_AS = `CASE WHEN shape->>'kind' IN ('single', 'pair') THEN
  (SELECT shape->>'kind' || ' ' || string_agg(gear_id::text, ' ' ORDER BY position) FROM chain_item WHERE chain_id = chain.id) END`;

/** Of all chains that hold an item, how they stood wherever they were liked or not; newest first, a page of them. */
export async function standingsWith(
  db: Db,
  viewerId: string,
  gearId: string,
  page: number,
): Promise<StandingRow[]> {
  return db.rows<StandingRow>(
    `SELECT ${WHERE_COLUMNS}, standing.listeners, standing.chains, chain.id AS "chainId", chain.name AS chain, unit, value, low, high, leads, leaders, claimed
     ${STANDING_OF} JOIN chain ON chain.id = standing.chain_id
     WHERE standing.chain_id IN (${HOLDING}) AND unit <> 'words'
     ORDER BY closed_at DESC, sitting.id, part.number, lower(chain.name) LIMIT $3 OFFSET $4`,
    [viewerId, gearId, LIST_PAGE, (page - 1) * LIST_PAGE],
  );
}

/** How often chains that hold an item came out in each way, and how many of these were simulated. */
export async function countStandingsWith(
  db: Db,
  viewerId: string,
  gearId: string,
): Promise<
  { claimed: boolean; leads: boolean; leaders: number; simulated: boolean; times: number }[]
> {
  return db.rows(
    `SELECT standing.claimed, leads, least(leaders, 2) AS leaders, sitting.simulated, count(*)::int AS times
     ${STANDING_OF} WHERE standing.chain_id IN (${HOLDING}) AND unit <> 'words'
     GROUP BY 1, 2, 3, 4`,
    [viewerId, gearId],
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
  viewerId: string,
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
    [viewerId, gearId, most],
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
  viewerId: string,
  gearId: string,
  most: number,
): Promise<{ rows: HolderRow[]; all: number }> {
  const rows = await db.rows<HolderRow & { all: number }>(
    `SELECT chain.id AS "chainId", chain.name AS chain, comparison.id AS "comparisonId", title, count(*) OVER ()::int AS all
     FROM chain JOIN comparison ON comparison.id = comparison_id AND comparison.deleted_at IS NULL
     WHERE ${SEEN} AND chain.deleted_at IS NULL AND chain.id IN (${HOLDING})
     ORDER BY comparison.created_at DESC, lower(chain.name) LIMIT $3`,
    [viewerId, gearId, most],
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
  viewerId: string,
  gearId: string,
  most: number,
): Promise<GainRow[]> {
  return db.rows<GainRow>(
    `SELECT source.name AS source, count(*)::int AS lines, min(gain_db) AS least, max(gain_db) AS most,
       percentile_cont(0.5) WITHIN GROUP (ORDER BY gain_db) AS median
     FROM run_line JOIN comparison ON comparison.id = comparison_id AND deleted_at IS NULL AND ${SEEN}
     JOIN source ON source.id = source_id
     WHERE chain_id IN (${HOLDING}) AND run_line.programme = 'performance' AND done AND gain_db IS NOT NULL
     GROUP BY source.name ORDER BY count(*) DESC, source.name LIMIT $3`,
    [viewerId, gearId, most],
  );
}

/** A recording of the test programme through a chain with an item. */
interface ProgrammeRow {
  /** What the chain is, whatever it is called. */
  of: string;
  chain: string;
  /** As the file says it; null where it does not. */
  written: string | null;
  arrived: Date;
}
export interface TestSoundRow extends ProgrammeRow {
  thirdsDb: (number | null)[];
}
export interface ResistorRow extends ProgrammeRow {
  aWeightedDbfs: number;
  gainDb: number;
}

const PROGRAMME_COLUMNS = `chain.name AS chain, facts->'metadata'->>'originationDate' AS written, take.created_at AS arrived, ${SAME_AS} AS of`;
const PROGRAMME_WITH = `FROM take JOIN chain ON chain.id = take.chain_id AND chain.id IN (${HOLDING})
  JOIN comparison ON comparison.id = take.comparison_id AND comparison.deleted_at IS NULL AND ${SEEN}`;
const NEWEST = `AND take.state = 'ready' AND ${SAME_AS} IS NOT NULL ORDER BY take.created_at DESC LIMIT $3`;

/** Test sounds that were recorded through chains with an item, the newest first. */
export async function testSoundsWith(
  db: Db,
  viewerId: string,
  gearId: string,
  most: number,
): Promise<TestSoundRow[]> {
  return db.rows<TestSoundRow>(
    `SELECT ${PROGRAMME_COLUMNS}, facts->'features'->'thirdsDb' AS "thirdsDb" ${PROGRAMME_WITH}
     WHERE take.programme = 'tone' AND jsonb_typeof(facts->'features'->'thirdsDb') = 'array' ${NEWEST}`,
    [viewerId, gearId, most],
  );
}

/** Recordings of a resistor through chains with an item whose gain was logged at the stand, the newest first. */
export async function resistorsWith(
  db: Db,
  viewerId: string,
  gearId: string,
  most: number,
): Promise<ResistorRow[]> {
  return db.rows<ResistorRow>(
    `SELECT ${PROGRAMME_COLUMNS}, (facts->'features'->>'aWeightedDbfs')::float AS "aWeightedDbfs", logged.gain_db AS "gainDb" ${PROGRAMME_WITH}
     CROSS JOIN LATERAL (SELECT gain_db FROM run_line WHERE run_line.chain_id = take.chain_id AND run_line.programme = 'resistor'
       AND done AND gain_db IS NOT NULL ORDER BY day, position LIMIT 1) AS logged
     WHERE take.programme = 'resistor' AND jsonb_typeof(facts->'features'->'aWeightedDbfs') = 'number' ${NEWEST}`,
    [viewerId, gearId, most],
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
const HEARD = `${STANDING_OF} JOIN chain ON chain.id = standing.chain_id WHERE unit <> 'words'
  AND ($2 = '' OR position(lower($2) IN lower(${PLACE_TEXT})) > 0 OR EXISTS (SELECT 1 FROM chain_standing AS other JOIN chain AS named ON named.id = other.chain_id
    WHERE other.sitting_id = standing.sitting_id AND other.part = standing.part AND position(lower($2) IN lower(named.name)) > 0))`;

/** A page of what was heard, over all comparisons. */
export async function listHeard(
  db: Db,
  viewerId: string,
  { q, sort, page }: HeardQuery,
): Promise<HeardRow[]> {
  return db.rows<HeardRow>(
    `SELECT ${WHERE_COLUMNS}, comparison.question, max(standing.listeners) AS listeners, max(standing.chains) AS chains,
       min(unit) AS unit, bool_or(standing.claimed) AS claimed,
       coalesce(jsonb_agg(jsonb_build_object('chain', chain.name, 'value', value, 'low', low, 'high', high)
         ORDER BY value DESC NULLS LAST, lower(chain.name)) FILTER (WHERE leads), '[]') AS leaders
     ${HEARD} GROUP BY comparison.id, sitting.id, part.number, source.name, passage.name, context
     ORDER BY ${HEARD_ORDERS[sort]} LIMIT $3 OFFSET $4`,
    [viewerId, q, LIST_PAGE, (page - 1) * LIST_PAGE],
  );
}

/** In how many places a text was found, and how many there are. */
export async function countHeard(
  db: Db,
  viewerId: string,
  q: string,
): Promise<{ found: number; all: number }> {
  return one(
    db.rows<{ found: number; all: number }>(
      `SELECT (SELECT count(DISTINCT (standing.sitting_id, standing.part))::int ${HEARD}) AS found,
         (SELECT count(DISTINCT (standing.sitting_id, standing.part))::int FROM chain_standing AS standing
          JOIN sitting ON sitting.id = standing.sitting_id JOIN comparison ON comparison.id = sitting.comparison_id
          WHERE ${SEEN} AND comparison.deleted_at IS NULL AND unit <> 'words') AS all`,
      [viewerId, q],
    ),
  );
}

export interface RememberedRow {
  /** The same gear in the same order is the same chain; as it was called last. */
  gearIds: string[];
  pair: boolean;
  name: string;
  /** Chains by which it was heard. */
  chainIds: string[];
  alike: Outcomes;
  elsewhere: Outcomes;
  simulated: number;
}

/** Sets of gear that are looked at, those planned last first. */
const MOST_REMEMBERED = 400;
/** Whether a place holds all words of a query. */
const ALIKE = `search_words(${PLACE_TEXT}) @@ to_tsquery('pg_catalog.simple'::regconfig, $2)`;
const outcomes = (which: string) =>
  `jsonb_build_object(${(
    [
      ['won', 'claimed AND leads AND leaders = 1'],
      ['may be the best', 'claimed AND leads AND leaders > 1'],
      ['behind', 'claimed AND NOT leads AND leaders > 0'],
      ['nothing shown', 'NOT claimed OR leaders = 0'],
    ] as const
  )
    .map(([name, where]) => `'${name}', count(*) FILTER (WHERE ${which} AND (${where}))`)
    .join(', ')})`;

/**
 * Chains made of gear that is still on the list, with how they came out in places that hold all words of a text, and in
 * all others; what was heard with names told, or under a broken seal, is left out.
 * @param query as `searchQuery` makes it, not empty
 */
export async function rememberedChains(
  db: Db,
  viewerId: string,
  query: string,
): Promise<RememberedRow[]> {
  return db.rows<RememberedRow>(
    `WITH held AS (SELECT chain.id, chain.name, comparison.created_at, shape->>'kind' = 'pair' AS pair,
         array_agg(gear_id ORDER BY chain_item.position) AS "gearIds"
       FROM chain JOIN comparison ON comparison.id = chain.comparison_id AND comparison.deleted_at IS NULL
       JOIN chain_item ON chain_item.chain_id = chain.id JOIN gear ON gear.id = gear_id
       WHERE ${SEEN} AND chain.deleted_at IS NULL AND shape->>'kind' IN ('single', 'pair')
       GROUP BY chain.id, comparison.created_at HAVING bool_and(gear.deleted_at IS NULL)),
     heard AS (SELECT standing.chain_id, claimed, leads, leaders, sitting.simulated,
         ${ALIKE} AS alike
       ${STANDING_OF} WHERE ${COUNTS})
     SELECT "gearIds", pair, (array_agg(held.name ORDER BY created_at DESC, held.id))[1] AS name,
       coalesce(array_agg(DISTINCT held.id) FILTER (WHERE heard.chain_id IS NOT NULL), '{}') AS "chainIds",
       ${outcomes('alike')} AS alike, ${outcomes('NOT alike')} AS elsewhere,
       (count(*) FILTER (WHERE simulated))::int AS simulated
     FROM held LEFT JOIN heard ON heard.chain_id = held.id
     GROUP BY "gearIds", pair ORDER BY max(created_at) DESC, 1 LIMIT ${MOST_REMEMBERED}`,
    [viewerId, query],
  );
}

/** Places of a studio that hold all words of a text, of those that count. */
export async function countAlike(db: Db, viewerId: string, query: string): Promise<number> {
  const { places } = await one(
    db.rows<{ places: number }>(
      `SELECT count(DISTINCT (sitting.id, part.number))::int AS places ${STANDING_OF}
       WHERE ${COUNTS} AND ${ALIKE}`,
      [viewerId, query],
    ),
  );
  return places;
}

/** Levels in thirds of an octave of clips made as recorded, in the newest sets of some chains. */
export async function thirdsOf(
  db: Db,
  chainIds: readonly string[],
  most: number,
): Promise<{ chainId: string; setId: string; levelsDb: (number | null)[] }[]> {
  return db.rows(
    `SELECT chain_id AS "chainId", clip_set.id AS "setId", pictures->'third'->'levelsDb' AS "levelsDb"
     FROM clip JOIN clip_set ON clip_set.id = clip_set_id AND state = 'ready' AND context = 'raw'
     WHERE chain_id = ANY ($1::uuid[]) AND pictures->'third'->'levelsDb' IS NOT NULL
     ORDER BY clip_set.created_at DESC, clip_set.id, chain_id LIMIT $2`,
    [chainIds, most],
  );
}

const HEARD_CHAINS = `${STANDING_OF} JOIN chain ON chain.id = standing.chain_id WHERE ${COUNTS}`;

export interface LinkRow {
  /** One of the chains made of this gear, and what it was called last. */
  chainId: string;
  chain: string;
  comparisons: number;
}

/** Chains of the same gear that panels heard in more than one comparison; those heard in most first. */
export async function linkingChains(db: Db, viewerId: string, most: number): Promise<LinkRow[]> {
  return db.rows<LinkRow>(
    `WITH heard AS (SELECT DISTINCT chain.id, chain.name, comparison.id AS comparison_id, comparison.created_at,
         ${SAME_AS} AS gear ${HEARD_CHAINS})
     SELECT (array_agg(id ORDER BY created_at DESC, id))[1] AS "chainId",
       (array_agg(name ORDER BY created_at DESC, id))[1] AS chain, count(DISTINCT comparison_id)::int AS comparisons
     FROM heard WHERE gear IS NOT NULL GROUP BY gear HAVING count(DISTINCT comparison_id) > 1
     ORDER BY 3 DESC, 2, 1 LIMIT $2`,
    [viewerId, most],
  );
}

export interface LinkedRow {
  sittingId: string;
  sitting: string;
  comparisonId: string;
  title: string;
  source: string;
  simulated: boolean;
  chainId: string;
  chain: string;
  /** What it is over all comparisons; null for a chain in words. */
  gear: string | null;
  /** Made of the same gear as the chain that links. */
  links: boolean;
}

/** All chains of the newest sittings that heard a chain of the same gear as one of a studio. */
export async function linkedThrough(
  db: Db,
  viewerId: string,
  chainId: string,
  mostSittings: number,
): Promise<LinkedRow[]> {
  return db.rows<LinkedRow>(
    `WITH heard AS (SELECT DISTINCT sitting.id AS "sittingId", sitting.title AS sitting, closed_at, comparison.id AS "comparisonId",
         comparison.title, comparison.created_at, source.name AS source, sitting.simulated, chain.id AS "chainId",
         chain.name AS chain, ${SAME_AS} AS gear ${HEARD_CHAINS}),
     link AS (SELECT gear FROM heard WHERE "chainId" = $2 LIMIT 1),
     found AS (SELECT "sittingId" FROM heard WHERE gear = (SELECT gear FROM link)
       GROUP BY "sittingId", closed_at ORDER BY closed_at DESC, 1 LIMIT $3)
     SELECT "sittingId", sitting, "comparisonId", title, source, simulated, "chainId", chain, gear,
       coalesce(gear = (SELECT gear FROM link), false) AS links
     FROM heard WHERE "sittingId" IN (SELECT "sittingId" FROM found)
     ORDER BY closed_at DESC, "sittingId", lower(chain), "chainId"`,
    [viewerId, chainId, mostSittings],
  );
}
