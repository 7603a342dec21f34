import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { alignmentChange } from '@/steps/match/schema';
import { setAlignment } from '@/steps/match/service';

export const PUT = engineerRoute(['id'], async (engineer, { id }, request) =>
  setAlignment(engineer, id, await readBody(request, alignmentChange)),
);
