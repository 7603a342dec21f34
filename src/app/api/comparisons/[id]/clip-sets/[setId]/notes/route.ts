import { engineerRoute } from '@/platform/engineer-route';
import { MATCH } from '@/steps/match/endpoints';
import { addNote } from '@/steps/match/notes';

export const POST = engineerRoute(MATCH.addNote, async (engineer, { id, setId }, note) => ({
  id: await addNote(engineer, id, setId, note, new Date()),
}));
