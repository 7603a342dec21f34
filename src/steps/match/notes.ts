import { type Db, transaction, type Tx } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { announce } from '@/platform/live';
import { one } from '@/platform/one';
import type { SignedIn } from '@/platform/sign-in/service';
import { comparisonOf } from '@/steps/comparisons/service';
import type { ClipNote, NewNote } from './schema';
import { findClipSet, listClips } from './store';

const MOST_NOTES = 500;

/** What engineers noted of a set of clips, the newest first. */
export async function listNotes(from: Db, clipSetId: string): Promise<ClipNote[]> {
  return from.rows<ClipNote>(
    `SELECT clip_note.id, chain_id AS "chainId", account_id AS "accountId", account.name AS author, at,
       from_s AS "fromS", to_s AS "toS", names_seen AS "namesSeen", note
     FROM clip_note JOIN account ON account.id = account_id
     WHERE clip_set_id = $1 ORDER BY at DESC, clip_note.id`,
    [clipSetId],
  );
}

async function ownSet(tx: Tx, engineer: SignedIn, comparisonId: string, clipSetId: string) {
  await comparisonOf(engineer, comparisonId);
  const set = await findClipSet(tx, clipSetId);
  if (set?.comparisonId !== comparisonId) throw notFound('set of clips');
}

/** Keeps what somebody noted while hearing clips, by name or with the names hidden. @returns the note's id */
export async function addNote(
  engineer: SignedIn,
  comparisonId: string,
  clipSetId: string,
  { chainId, loopS, namesSeen, note }: NewNote,
  at: Date,
): Promise<string> {
  return transaction(async (tx) => {
    await ownSet(tx, engineer, comparisonId, clipSetId);
    if (chainId !== null) {
      const clips = await listClips(tx, clipSetId);
      if (!clips.some((clip) => clip.chainId === chainId)) throw notFound('clip');
    }
    const { count } = await one(
      tx.rows<{ count: number }>(
        'SELECT count(*)::int AS count FROM clip_note WHERE clip_set_id = $1',
        [clipSetId],
      ),
    );
    if (count >= MOST_NOTES) {
      throw new UserError(409, `A set of clips holds ${MOST_NOTES} notes; all of them are kept.`);
    }
    const made = await one(
      tx.rows<{ id: string }>(
        `INSERT INTO clip_note (clip_set_id, chain_id, account_id, at, from_s, to_s, names_seen, note)
         VALUES ($1, $2, $3, $4, $5, $6, $7, $8) RETURNING id`,
        [
          clipSetId,
          chainId,
          engineer.accountId,
          at,
          loopS?.[0] ?? null,
          loopS?.[1] ?? null,
          namesSeen,
          note,
        ],
      ),
    );
    await announce(tx, comparisonId);
    return made.id;
  });
}

/** Deletes a note; whoever wrote it may. */
export async function removeNote(
  engineer: SignedIn,
  comparisonId: string,
  clipSetId: string,
  noteId: string,
): Promise<void> {
  await transaction(async (tx) => {
    await ownSet(tx, engineer, comparisonId, clipSetId);
    const gone = await tx.rows(
      'DELETE FROM clip_note WHERE id = $1 AND clip_set_id = $2 AND account_id = $3 RETURNING id',
      [noteId, clipSetId, engineer.accountId],
    );
    if (gone.length === 0) throw notFound('note');
    await announce(tx, comparisonId);
  });
}
