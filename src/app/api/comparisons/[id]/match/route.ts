import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { matchOrder } from '@/steps/match/schema';
import { startMatch } from '@/steps/match/service';

export const POST = engineerRoute(['id'], async (engineer, { id }, request) => ({
  ids: await startMatch(engineer, id, await readBody(request, matchOrder), new Date()),
}));
