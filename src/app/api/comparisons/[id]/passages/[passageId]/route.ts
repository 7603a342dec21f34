import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { changePassage, removePassage } from '@/steps/comparisons/service';
import { passageChange } from '@/steps/match/schema';

export const PUT = engineerRoute(['id', 'passageId'], async (engineer, ids, request) =>
  changePassage(engineer, ids.id, ids.passageId, await readBody(request, passageChange)),
);

export const DELETE = engineerRoute(['id', 'passageId'], (engineer, { id, passageId }) =>
  removePassage(engineer, id, passageId),
);
