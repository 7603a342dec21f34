import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { copyWithTakes } from '@/steps/takes/service';

export const POST = engineerRoute(TAKES.copyWhole, async (engineer, { id }) => ({
  id: await copyWithTakes(engineer, id, new Date()),
}));
