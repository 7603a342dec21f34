import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { importResults } from '@/steps/sitting/from-file';

export const POST = engineerRoute(SITTINGS.importResults, (engineer, { id }, order) =>
  importResults(engineer, id, order, new Date()),
);
