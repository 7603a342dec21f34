import { engineerRoute } from '@/platform/engineer-route';
import { MATCH } from '@/steps/match/endpoints';
import { removeNote } from '@/steps/match/notes';

export const DELETE = engineerRoute(MATCH.removeNote, (engineer, { id, setId, noteId }) =>
  removeNote(engineer, id, setId, noteId),
);
