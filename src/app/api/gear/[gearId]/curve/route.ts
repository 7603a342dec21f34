import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { curveOrder } from '@/steps/gear/schema';
import { setCurve } from '@/steps/gear/service';

const MOST_BYTES = 2 * 1024 * 1024;

export const PUT = engineerRoute(['gearId'], async (engineer, { gearId }, request) => {
  const { which, text, version } = await readBody(request, curveOrder, MOST_BYTES);
  return { points: await setCurve(engineer, gearId, which, text, version) };
});
