/** The account whose gear, panel and comparisons the account in `$1` works with; asked once a query. */
export const STUDIO = '(SELECT coalesce(studio_id, id) FROM account WHERE id = $1)';

/**
 * Whether the account in `$1` sees a comparison: one of its studio, and where not all are shown to it, one of those.
 * @param owner column of the comparison's owner
 * @param id column of the comparison's id
 */
export const seen = (owner: string, id: string): string =>
  `(${owner} = ${STUDIO} AND (NOT (SELECT limited FROM account WHERE id = $1)
    OR ${id} IN (SELECT comparison_id FROM account_comparison WHERE account_id = $1)))`;

/** The same of a query over comparisons. */
export const SEEN = seen('comparison.owner_id', 'comparison.id');
