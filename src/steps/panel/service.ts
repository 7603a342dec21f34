import { db, transaction, violatesUnique } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import type { SignedIn } from '@/platform/sign-in/service';
import type { PanelistDraft, PanelList, PanelQuery } from './schema';
import { countPanel, insertPanelist, listPanelists, updatePanelist } from './store';

/** A page of the panel. Two queries, whatever its size. */
export async function panelOf({ studioId }: SignedIn, query: PanelQuery): Promise<PanelList> {
  const counts = await countPanel(db(), studioId, query.q);
  return { query, people: await listPanelists(db(), studioId, query), ...counts };
}

async function once<T>(alias: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!violatesUnique(error, 'panelist_alias')) throw error;
    throw new UserError(409, `“${alias}” is on the panel already; choose another name.`);
  }
}

export async function addPanelist(
  engineer: SignedIn,
  draft: PanelistDraft,
  at: Date,
): Promise<string> {
  return once(draft.alias, () =>
    transaction((tx) => insertPanelist(tx, engineer.studioId, draft, at)),
  );
}

export async function changePanelist(
  engineer: SignedIn,
  id: string,
  draft: PanelistDraft,
): Promise<void> {
  await once(draft.alias, async () => {
    if (!(await updatePanelist(db(), engineer.studioId, id, draft))) throw notFound('person');
  });
}
