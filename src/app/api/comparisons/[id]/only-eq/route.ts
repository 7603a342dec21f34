import { engineerRoute } from '@/platform/engineer-route';
import { MATCH } from '@/steps/match/endpoints';
import { askOnlyEq } from '@/steps/match/only-eq';

export const POST = engineerRoute(MATCH.onlyEq, (engineer, { id }, order) =>
  askOnlyEq(engineer, id, order, new Date()),
);
