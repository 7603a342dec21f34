import { engineerRoute } from '@/platform/engineer-route';
import { removeArchive } from '@/steps/takes/service';

export const DELETE = engineerRoute(['id', 'archiveId'], (engineer, { id, archiveId }) =>
  removeArchive(engineer, id, archiveId),
);
