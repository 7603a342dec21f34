import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { sealBreaking } from '@/steps/sitting/schema';
import { breakSeal } from '@/steps/sitting/service';

export const POST = engineerRoute(
  ['id', 'sittingId'],
  async (engineer, { id, sittingId }, request) =>
    breakSeal(engineer, id, sittingId, await readBody(request, sealBreaking), new Date()),
);
