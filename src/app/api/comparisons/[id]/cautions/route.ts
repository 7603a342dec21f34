import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { cautionOrder } from '@/steps/chains/schema';
import { acknowledgeCaution } from '@/steps/chains/service';

export const POST = engineerRoute(['id'], async (engineer, { id }, request) =>
  acknowledgeCaution(engineer, id, (await readBody(request, cautionOrder)).caution, new Date()),
);
