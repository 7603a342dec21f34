import { engineerRoute } from '@/platform/engineer-route';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { importPackAnswers } from '@/steps/sitting/from-pack';

export const POST = engineerRoute(SITTINGS.importPack, (engineer, { id, packId }, order) =>
  importPackAnswers(engineer, id, packId, order, new Date()),
);
