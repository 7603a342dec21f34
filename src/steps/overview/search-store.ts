import type { Db } from '@/platform/database';
import type { FoundAnywhere } from '@/platform/endpoints';
import { SEEN, STUDIO } from '@/platform/sign-in/seen';

/** Of each kind of thing so many are shown. */
const EACH = 6;
/**
 * What thousands of takes hold is looked for among so many of the newest, and else among so many of those that hold it: a search costs no
 * more in a larger bank. The takes shown are the newest, unless more than `MOST` hold what was typed and hardly one of the newest does.
 */
const NEWEST = 300;
const MOST = 1000;

export interface FoundRow extends Omit<FoundAnywhere, 'address'> {
  comparisonId: string | null;
  sittingId: string | null;
}

const SHOWN = `${SEEN} AND comparison.deleted_at IS NULL`;
const holds = (text: string) =>
  `search_words(${text}) @@ to_tsquery('pg_catalog.simple'::regconfig, $2)`;

/**
 * What holds all words of a query, of a studio and as far as somebody sees it. Remarks of listeners are looked through only where their sitting is
 * closed: before, nobody reads them.
 * @param query as `searchQuery` makes it
 */
export async function searchAll(db: Db, viewerId: string, query: string): Promise<FoundRow[]> {
  return db.rows<FoundRow>(
    `WITH newest AS (
       SELECT take.id AS take, file_name, title, comparison.id, take.created_at
       FROM take JOIN comparison ON comparison.id = comparison_id
       WHERE ${SHOWN} ORDER BY take.created_at DESC LIMIT ${NEWEST}),
     near AS MATERIALIZED (
       SELECT * FROM newest WHERE ${holds('file_name')}
       ORDER BY created_at DESC, file_name LIMIT ${EACH}),
     far AS (
       SELECT take.id AS take, file_name, title, comparison.id, take.created_at
       FROM take JOIN comparison ON comparison.id = comparison_id
       WHERE (SELECT count(*) FROM near) < ${EACH} AND ${SHOWN} AND ${holds('file_name')}
       LIMIT ${MOST})
     SELECT kind, text, "where", "comparisonId", "sittingId" FROM (
       (SELECT 1 AS place, 'comparison' AS kind, title AS text, '' AS "where", id AS "comparisonId",
          NULL::uuid AS "sittingId"
        FROM comparison WHERE ${SHOWN} AND ${holds("title || ' ' || question")}
        ORDER BY created_at DESC LIMIT ${EACH})
       UNION ALL
       (SELECT 2, 'chain', chain.name, title, comparison.id, NULL
        FROM chain JOIN comparison ON comparison.id = comparison_id
        WHERE ${SHOWN} AND chain.deleted_at IS NULL AND ${holds('chain.name')}
        ORDER BY comparison.created_at DESC, chain.name LIMIT ${EACH})
       UNION ALL
       (SELECT 3, 'take', file_name, title, id, NULL
        FROM (SELECT * FROM near UNION SELECT * FROM far) AS takes
        ORDER BY created_at DESC, file_name LIMIT ${EACH})
       UNION ALL
       (SELECT 4, 'gear', name, maker, NULL, NULL
        FROM gear WHERE owner_id = ${STUDIO} AND deleted_at IS NULL AND ${holds("name || ' ' || maker")}
        ORDER BY lower(name) LIMIT ${EACH})
       UNION ALL
       (SELECT 5, 'person', alias, '', NULL, NULL
        FROM panelist WHERE owner_id = ${STUDIO} AND ${holds('alias')} ORDER BY lower(alias) LIMIT ${EACH})
       UNION ALL
       (SELECT 6, 'remark', answer.remark, sitting.title, comparison.id, sitting.id
        FROM answer JOIN sitting ON sitting.id = answer.sitting_id AND sitting.state = 'closed'
          AND purpose = 'panel'
        JOIN comparison ON comparison.id = sitting.comparison_id
        WHERE ${SHOWN} AND answer.remark <> '' AND ${holds('remark')}
        ORDER BY answered_at DESC LIMIT ${EACH})
       UNION ALL
       (SELECT 7, 'decision', title, '', comparison.id, NULL
        FROM comparison WHERE ${SHOWN} AND EXISTS (SELECT 1 FROM decision
          WHERE comparison_id = comparison.id AND ${holds('words')})
        ORDER BY created_at DESC LIMIT ${EACH})
     ) AS found ORDER BY place`,
    [viewerId, query],
  );
}
