import { engineerRoute } from '@/platform/engineer-route';
import { copyOf } from '@/steps/chains/service';

export const POST = engineerRoute(['id'], async (engineer, { id }) => ({
  id: await copyOf(engineer, id, new Date()),
}));
