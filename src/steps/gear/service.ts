import { db, transaction, violatesUnique } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { pageWithin } from '@/platform/list-query';
import type { SignedIn } from '@/platform/sign-in/service';
import { gearCsv, readGearCsv } from './csv';
import { readCurve } from './curve';
import {
  type Gear,
  GEAR_PAGE,
  type GearDraft,
  type GearList,
  type GearQuery,
  type ImportPreview,
} from './schema';
import {
  chainsWith,
  circularAccessories,
  countGear,
  countOwn,
  findOwnGear,
  insertGear,
  listGear,
  markDeleted,
  namesOfGear,
  pageOfGear,
  setAccessories,
  updateCurve,
  updateGear,
  upsertGear,
} from './store';

const CHANGED_ELSEWHERE =
  'This item was changed in another window meanwhile; that version is kept. Look at it, then write yours again.';
const MOST_ITEMS = 20_000;

/** A page of the list; whoever asks for one behind the last gets the last. Two queries, whatever its size. */
export async function gearListOf({ studioId }: SignedIn, query: GearQuery): Promise<GearList> {
  const counts = await countGear(db(), studioId, query.q);
  const page = pageWithin(query.page, counts.found, GEAR_PAGE);
  const shown = { ...query, page };
  return { query: shown, items: await pageOfGear(db(), studioId, shown), ...counts };
}

/** Accessories by their names, the first that fit what is typed. */
export async function accessoriesFound(
  { studioId }: SignedIn,
  q: string,
): Promise<{ id: string; name: string }[]> {
  return namesOfGear(db(), studioId, 'accessory', q);
}

/** The whole list, for what is made of it. */
export async function gearOf(engineer: SignedIn): Promise<Gear[]> {
  return listGear(db(), engineer.studioId);
}

/** For computing chains: with items that were deleted but are still in use. */
export async function allGearOf(engineer: SignedIn): Promise<Gear[]> {
  return listGear(db(), engineer.studioId, true);
}

/** One item, also one that was deleted: chains may still hold it. */
export async function gearItemOf(
  { studioId }: SignedIn,
  id: string,
): Promise<(Gear & { deleted: boolean }) | null> {
  return findOwnGear(db(), studioId, id);
}

function nameTaken(error: unknown, name: string): never {
  if (violatesUnique(error, 'gear_name')) {
    throw new UserError(409, `There is an item “${name}” already; choose another name.`);
  }
  throw error;
}

async function refuseCircles(
  tx: Parameters<typeof circularAccessories>[0],
  engineer: SignedIn,
): Promise<void> {
  const names = await circularAccessories(tx, engineer.studioId);
  if (names.length > 0) {
    throw new UserError(
      422,
      `${[...new Set(names)].slice(0, 4).join(' and ')} would be accessories of each other in a circle; nothing was changed.`,
    );
  }
}

async function keepAccessories(
  tx: Parameters<typeof setAccessories>[0],
  engineer: SignedIn,
  gearId: string,
  accessoryIds: readonly string[],
): Promise<void> {
  const wanted = [...new Set(accessoryIds)];
  if (wanted.includes(gearId))
    throw new UserError(422, 'An item cannot be an accessory of itself.');
  if ((await countOwn(tx, engineer.studioId, wanted)) < wanted.length) throw notFound('accessory');
  await setAccessories(
    tx,
    wanted.map((accessoryId) => ({ gearId, accessoryId })),
    [gearId],
  );
  await refuseCircles(tx, engineer);
}

export async function addGear(
  engineer: SignedIn,
  draft: GearDraft,
  at: Date,
  simulated = false,
): Promise<string> {
  return transaction(async (tx) => {
    const id = await insertGear(tx, engineer.studioId, draft, simulated, at).catch(
      (error: unknown) => nameTaken(error, draft.name),
    );
    await keepAccessories(tx, engineer, id, draft.accessoryIds);
    return id;
  });
}

export async function changeGear(
  engineer: SignedIn,
  id: string,
  draft: GearDraft,
  version: number,
): Promise<void> {
  await transaction(async (tx) => {
    const kept = await updateGear(tx, engineer.studioId, id, draft, version).catch(
      (error: unknown) => nameTaken(error, draft.name),
    );
    if (!kept) throw new UserError(409, CHANGED_ELSEWHERE);
    await keepAccessories(tx, engineer, id, draft.accessoryIds);
  });
}

export async function setCurve(
  engineer: SignedIn,
  id: string,
  which: 'impedance' | 'response',
  text: string,
  version: number,
): Promise<number> {
  const points = text.trim() === '' ? null : readCurve(text, which);
  if (!(await updateCurve(db(), engineer.studioId, id, which, points, version))) {
    throw new UserError(409, CHANGED_ELSEWHERE);
  }
  return points?.length ?? 0;
}

/** Removes an item; refused while chains use it. Can be undone. */
export async function removeGear(engineer: SignedIn, id: string, at: Date): Promise<void> {
  await transaction(async (tx) => {
    const [used] = await chainsWith(tx, engineer.accountId, id);
    if (used) {
      throw new UserError(
        409,
        used.seen
          ? `The chain “${used.chain}” of “${used.comparison}” uses this item; it stays. Take it out of the chain first.`
          : 'A chain of a comparison that is not shown to you uses this item; it stays. Ask the owner of the bank.',
      );
    }
    if (!(await markDeleted(tx, engineer.studioId, id, at))) throw notFound('item');
  });
}

export async function restoreGear(engineer: SignedIn, id: string): Promise<void> {
  const done = await markDeleted(db(), engineer.studioId, id, null).catch((error: unknown) =>
    nameTaken(error, 'of this name'),
  );
  if (!done) throw notFound('item');
}

/**
 * Some items of the studio, in this order, and the names of their accessories; what is gone or is another studio's is
 * left out.
 */
export async function sideBySide(
  engineer: SignedIn,
  ids: readonly string[],
): Promise<{ items: Gear[]; names: Record<string, string> }> {
  const all = await gearOf(engineer);
  const items = ids.flatMap((id) => all.find((item) => item.id === id) ?? []);
  const wanted = new Set(items.flatMap(({ accessoryIds }) => accessoryIds));
  const names = all.flatMap(({ id, name }) => (wanted.has(id) ? [[id, name] as const] : []));
  return { items, names: Object.fromEntries(names) };
}

export async function exportGear(engineer: SignedIn): Promise<string> {
  return gearCsv(await gearOf(engineer));
}

/** Says what a list would change; with `apply`, changes it, leaving rows with faults out. */
export async function importGear(
  engineer: SignedIn,
  csv: string,
  apply: boolean,
  at: Date,
  simulated = false,
): Promise<ImportPreview> {
  return transaction(async (tx) => {
    const known = await listGear(tx, engineer.studioId);
    const read = readGearCsv(csv, known);
    if ('error' in read) throw new UserError(422, read.error);
    if (!apply) return read.preview;
    if (known.length + read.items.length > MOST_ITEMS) {
      throw new UserError(
        422,
        `A gear list holds ${MOST_ITEMS} items at most; nothing was changed.`,
      );
    }
    const ids = await upsertGear(
      tx,
      engineer.studioId,
      read.items.map(({ draft }) => draft),
      simulated,
      at,
    );
    const all = new Map([
      ...known.map(({ id, name }) => [name.toLowerCase(), id] as const),
      ...ids,
    ]);
    const withAccessories = read.items.filter(({ accessories }) => accessories !== null);
    const idOf = (name: string) => all.get(name.toLowerCase());
    const pairs = withAccessories.flatMap(({ draft, accessories }) =>
      (accessories ?? []).flatMap((name) => {
        const [gearId, accessoryId] = [idOf(draft.name), idOf(name)];
        return gearId && accessoryId && gearId !== accessoryId ? [{ gearId, accessoryId }] : [];
      }),
    );
    const touched = withAccessories.flatMap(({ draft }) => idOf(draft.name) ?? []);
    await setAccessories(tx, pairs, touched);
    await refuseCircles(tx, engineer);
    return read.preview;
  });
}
