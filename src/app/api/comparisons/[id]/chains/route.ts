import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { chainDraft } from '@/steps/chains/schema';
import { addChain } from '@/steps/chains/service';

export const POST = engineerRoute(['id'], async (engineer, { id }, request) => ({
  id: await addChain(engineer, id, await readBody(request, chainDraft)),
}));
