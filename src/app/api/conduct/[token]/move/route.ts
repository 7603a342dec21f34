import { readBody } from '@/platform/route';
import { conduct, viewForConductor } from '@/steps/listening/conductor';
import { linkRoute } from '@/steps/listening/route';
import { conducting } from '@/steps/listening/schema';

export const POST = linkRoute(async (token, request) => {
  await conduct(token, await readBody(request, conducting));
  return viewForConductor(token);
});
