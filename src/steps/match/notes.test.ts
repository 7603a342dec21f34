import { randomUUID } from 'node:crypto';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testColleague, testEngineer, withTestDatabase } from '@/platform/test/database';
import { bankWithClips } from '@/steps/test/bank';
import { addNote, removeNote } from './notes';
import { newNote, type NewNote } from './schema';
import { matchOf } from './service';

withTestDatabase();

let engineer: SignedIn;
let id: string;
let setId: string;
let chainIds: string[];

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  ({ comparisonId: id, chainIds } = await bankWithClips(engineer));
  setId = (await matchOf(engineer, id)).clipSet!.id;
});

const note = (change: Partial<NewNote> = {}): NewNote => ({
  chainId: chainIds[0]!,
  loopS: [1.5, 3],
  namesSeen: true,
  note: 'hard on the s',
  ...change,
});

it('are kept with clip, loop, author and time, the newest first', async () => {
  await addNote(engineer, id, setId, note(), NOON);
  const later = new Date(NOON.getTime() + 60_000);
  await addNote(
    engineer,
    id,
    setId,
    note({ chainId: null, loopS: null, namesSeen: false, note: 'all boomy' }),
    later,
  );
  const { notes, lookerId } = await matchOf(engineer, id);
  expect(lookerId).toBe(engineer.accountId);
  expect(notes).toMatchObject([
    {
      chainId: null,
      fromS: null,
      toS: null,
      namesSeen: false,
      note: 'all boomy',
      author: 'Mirela Voss',
      at: later,
    },
    { chainId: chainIds[0], fromS: 1.5, toS: 3, namesSeen: true, note: 'hard on the s', at: NOON },
  ]);
});

it('are deleted by whoever wrote them, and by nobody else', async () => {
  const noteId = await addNote(engineer, id, setId, note({ note: 'wrong' }), NOON);
  const colleague = await testColleague(engineer, 'Tomas Brandt');
  await expect(removeNote(colleague, id, setId, noteId)).rejects.toMatchObject({ status: 404 });
  await removeNote(engineer, id, setId, noteId);
  await expect(removeNote(engineer, id, setId, noteId)).rejects.toMatchObject({ status: 404 });
  const texts = (await matchOf(engineer, id)).notes.map((one) => one.note);
  expect(texts).toEqual(['all boomy', 'hard on the s']);
});

it('belong to a set of this comparison, and to a clip in it', async () => {
  const stranger = await testEngineer('Somebody Else');
  await expect(addNote(stranger, id, setId, note(), NOON)).rejects.toMatchObject({ status: 404 });
  await expect(addNote(engineer, id, randomUUID(), note(), NOON)).rejects.toMatchObject({
    status: 404,
  });
  await expect(
    addNote(engineer, id, setId, note({ chainId: randomUUID() }), NOON),
  ).rejects.toMatchObject({ status: 404 });
});

it('are refused when there are too many, and those that are there stay', async () => {
  await db().rows(
    `INSERT INTO clip_note (clip_set_id, account_id, at, note)
     SELECT $1, $2, $3, 'one of many' FROM generate_series(1, 498)`,
    [setId, engineer.accountId, NOON],
  );
  await expect(addNote(engineer, id, setId, note(), NOON)).rejects.toMatchObject({ status: 409 });
  expect((await matchOf(engineer, id)).notes).toHaveLength(500);
});

it('say something, within bounds', () => {
  expect(newNote.safeParse(note({ note: '  ' })).success).toBe(false);
  expect(newNote.safeParse(note({ note: 'x'.repeat(501) })).success).toBe(false);
  expect(newNote.safeParse(note({ loopS: [3, 1] })).success).toBe(false);
  expect(newNote.safeParse(note({ loopS: null })).success).toBe(true);
});
