import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { addPassage } from '@/steps/comparisons/service';
import { newPassage } from '@/steps/match/schema';

export const POST = engineerRoute(['id'], async (engineer, { id }, request) => ({
  id: await addPassage(engineer, id, await readBody(request, newPassage)),
}));
