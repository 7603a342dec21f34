import type { Tx } from '../database';
import { freeNames } from '../free-names';
import { insertAccount } from './store';

/** No password comes to this. */
const NO_PASSWORD = '';

/**
 * Authors of what came from another bank: names to stand beside it, of whom nobody can sign in. They are never taken
 * for somebody of this bank, whatever they are called.
 * @returns their accounts here by those of there
 */
export async function keepElsewhere(
  tx: Tx,
  studioId: string,
  people: readonly { id: string; name: string }[],
  at: Date,
): Promise<Map<string, string>> {
  const taken = await tx.rows<{ name: string }>('SELECT lower(name) AS name FROM account');
  const free = freeNames(taken.map(({ name }) => name));
  const ids = new Map<string, string>();
  for (const { id, name } of people) {
    const place = { role: 'reader', studioId, limited: true } as const;
    const own = await insertAccount(tx, free(name), NO_PASSWORD, at, place);
    await tx.rows('UPDATE account SET ended_at = $2 WHERE id = $1', [own, at]);
    ids.set(id, own);
  }
  return ids;
}
