import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { makeChainsOfNames } from '@/steps/takes/service';

export const POST = engineerRoute(TAKES.makeChains, (engineer, { id }) =>
  makeChainsOfNames(engineer, id, new Date()),
);
