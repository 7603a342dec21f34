import { engineerRoute } from '@/platform/engineer-route';
import { DECISIONS } from '@/steps/decision/endpoints';
import { giveMarks } from '@/steps/decision/service';

export const POST = engineerRoute(DECISIONS.mark, (engineer, { id }, { marks }) =>
  giveMarks(engineer, id, marks, new Date()),
);
