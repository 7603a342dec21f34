import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { gridOrder } from '@/steps/chains/schema';
import { addGrid } from '@/steps/chains/service';

export const POST = engineerRoute(['id'], async (engineer, { id }, request) => ({
  made: await addGrid(engineer, id, await readBody(request, gridOrder)),
}));
