import { engineerRoute } from '@/platform/engineer-route';
import { changePassage, removePassage } from '@/steps/comparisons/service';
import { COMPARISONS } from '@/steps/comparisons/endpoints';

export const PUT = engineerRoute(COMPARISONS.changePassage, (engineer, { id, passageId }, change) =>
  changePassage(engineer, id, passageId, change),
);

export const DELETE = engineerRoute(COMPARISONS.removePassage, (engineer, { id, passageId }) =>
  removePassage(engineer, id, passageId, new Date()),
);
