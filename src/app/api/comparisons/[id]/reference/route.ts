import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { referenceOrder } from '@/steps/chains/schema';
import { chooseReference } from '@/steps/chains/service';

export const PUT = engineerRoute(['id'], async (engineer, { id }, request) =>
  chooseReference(engineer, id, await readBody(request, referenceOrder), new Date()),
);
