import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { importOrder } from '@/steps/gear/schema';
import { importGear } from '@/steps/gear/service';

/** A list far over the most rows still gets its sentence. */
const MOST_BYTES = 16 * 1024 * 1024;

export const POST = engineerRoute([], async (engineer, _, request) => {
  const { csv, apply } = await readBody(request, importOrder, MOST_BYTES);
  return importGear(engineer, csv, apply, new Date());
});
