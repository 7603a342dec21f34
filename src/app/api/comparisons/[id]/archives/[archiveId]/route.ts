import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { removeArchive } from '@/steps/takes/service';

export const DELETE = engineerRoute(TAKES.removeArchive, (engineer, { id, archiveId }) =>
  removeArchive(engineer, id, archiveId),
);
