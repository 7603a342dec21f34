import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { makePack, packOrder } from '@/steps/match/pack';

export const POST = engineerRoute(['id', 'setId'], async (engineer, { id, setId }, request) => ({
  id: await makePack(engineer, id, setId, await readBody(request, packOrder), new Date()),
}));
