import { db } from '@/platform/database';
import type { FoundAnywhere } from '@/platform/endpoints';
import { searchQuery } from '@/platform/search-words';
import type { SignedIn } from '@/platform/sign-in/service';
import { type FoundRow, searchAll } from './search-store';

const q = encodeURIComponent;

/** Where what was found is looked at. */
const ADDRESSES: Record<FoundAnywhere['kind'], (row: FoundRow) => string> = {
  comparison: ({ comparisonId }) => `/comparisons/${comparisonId}`,
  chain: ({ comparisonId }) => `/comparisons/${comparisonId}/chains`,
  take: ({ comparisonId, text }) => `/comparisons/${comparisonId}/takes?q=${q(text)}`,
  gear: ({ text }) => `/gear?q=${q(text)}`,
  person: ({ text }) => `/panel?q=${q(text)}`,
  remark: ({ comparisonId, sittingId }) =>
    `/comparisons/${comparisonId}/results?open=words&sitting=${sittingId}`,
  decision: ({ comparisonId }) => `/comparisons/${comparisonId}/decision`,
};

/** Whatever of the studio holds words that begin with all of these; a few of each kind. */
export async function searchBank(
  engineer: SignedIn,
  text: string,
): Promise<{ found: FoundAnywhere[] }> {
  const query = searchQuery(text);
  const rows = query === '' ? [] : await searchAll(db(), engineer.accountId, query);
  return {
    found: rows.map((row) => ({
      kind: row.kind,
      text: row.text,
      where: row.where,
      address: ADDRESSES[row.kind](row),
    })),
  };
}
