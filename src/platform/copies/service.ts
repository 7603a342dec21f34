import { existsSync, statSync } from 'node:fs';
import path from 'node:path';
import { config } from '../config';
import { db, transaction } from '../database';
import { freeBytesIn } from '../disk-space';
import { notFound, UserError } from '../errors';
import { record, recordAlone } from '../events/service';
import { requireOwner } from '../sign-in/owner';
import { checkPassword, type Door } from '../sign-in/service';
import type { SignedIn } from '../sign-in/store';
import { copyWarnings, type Kept } from './keeping';
import type { RestoreOrder } from './order';
import {
  type BankCopy,
  copyFacts,
  findCopy,
  insertCopy,
  keptCopies,
  listCopies,
  waitingCopy,
  writeKept,
} from './store';

const MOST_SHOWN = 60;

export interface CopiesView {
  copies: BankCopy[];
  kept: Kept;
  /** Where the files lie; null where this bank makes none by itself. */
  folder: string | null;
  freeBytes: number | null;
  warnings: string[];
}

const SEES_TO = 'sees to its copies';

async function diskOf(folder: string | undefined) {
  if (!folder || !existsSync(folder)) return { freeBytes: null, device: null };
  return { freeBytes: await freeBytesIn(folder), device: statSync(folder).dev };
}

async function warningsNow(now: Date): Promise<{ warnings: string[]; freeBytes: number | null }> {
  const { ZEITBANK_COPIES: folder, ZEITBANK_STORE: store } = config();
  const { freeBytes, device } = await diskOf(folder);
  const bank = await diskOf(store);
  const sameDisk = device !== null && device === bank.device;
  return {
    freeBytes,
    warnings: copyWarnings({ ...(await copyFacts(db())), freeBytes, sameDisk }, now),
  };
}

/** Copies of the bank with what has to be known of them. */
export async function copiesOf(asking: SignedIn, now: Date): Promise<CopiesView> {
  requireOwner(asking, SEES_TO);
  return {
    copies: await listCopies(db(), MOST_SHOWN),
    kept: await keptCopies(db()),
    folder: config().ZEITBANK_COPIES ?? null,
    ...(await warningsNow(now)),
  };
}

/** What an owner has to see to at once, beside whatever else they do; nothing where all is well. */
export async function copyWorries(asking: SignedIn, now: Date): Promise<string[]> {
  if (asking.role !== 'owner' || !config().ZEITBANK_COPIES) return [];
  const known = { ...(await copyFacts(db())), freeBytes: null, sameDisk: false };
  return copyWarnings(known, now);
}

/** The file of a copy that is there. @throws UserError (404) where it is gone */
export async function copyFile(
  asking: SignedIn,
  copyId: string,
): Promise<{ file: string; name: string; bytes: number }> {
  requireOwner(asking, SEES_TO);
  const copy = await findCopy(db(), copyId);
  const folder = config().ZEITBANK_COPIES;
  if (!copy?.madeAt || copy.removedAt || !folder) throw notFound('copy');
  const file = path.join(folder, copy.file);
  if (!existsSync(file)) {
    throw new UserError(404, 'The file of this copy is not in its folder any more.');
  }
  return { file, name: copy.file, bytes: statSync(file).size };
}

/** Asks for a copy now; the worker makes it. One that waits already is enough. */
export async function askForCopy(asking: SignedIn, now: Date): Promise<void> {
  requireOwner(asking, SEES_TO);
  if (!config().ZEITBANK_COPIES) {
    throw new UserError(
      409,
      'This bank was started without a folder for copies; set ZEITBANK_COPIES and start it again. Nothing was changed.',
    );
  }
  await transaction(async (tx) => {
    if (await waitingCopy(tx)) return;
    await insertCopy(tx, asking.accountId, now);
    await record(tx, asking, 'copy asked for', {}, now);
  });
}

/** Says how many of the nights' copies are kept; what is too many goes when the next one is made. */
export async function keepCopies(asking: SignedIn, kept: Kept, now: Date): Promise<void> {
  requireOwner(asking, SEES_TO);
  await transaction(async (tx) => {
    await writeKept(tx, kept);
    const about = `${kept.days} days, ${kept.weeks} weeks, ${kept.months} months`;
    await record(tx, asking, 'copies kept', { about }, now);
  });
}

/**
 * Has a copy brought back in place of the bank that is there, which is kept aside. Whoever started this process does
 * it: everything that works with the bank is stopped meanwhile.
 */
export async function askForRestore(
  asking: SignedIn,
  copyId: string,
  password: string,
  door: Door,
  at: Date,
): Promise<void> {
  const { name } = await copyFile(asking, copyId);
  await checkPassword(asking, password, door);
  const tell = process.send?.bind(process);
  if (!tell) {
    throw new UserError(
      409,
      'This bank runs in parts that were started one by one: stop all of them, then use ./zeitbank restore. Nothing was changed.',
    );
  }
  await recordAlone(asking, 'restore asked for', { about: name }, at);
  const order: RestoreOrder = { restore: { copyId, file: name, by: asking.name } };
  tell(order);
}
