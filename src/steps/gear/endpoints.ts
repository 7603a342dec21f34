import { z } from 'zod';
import { done, endpoint, found, made } from '@/platform/endpoint';
import { curveOrder, gearChange, gearDraft, importOrder, importPreview } from './schema';

const ONE = '/api/gear/[gearId]';
const MOST_CURVE_BYTES = 2 * 1024 * 1024;
/** A list far over the most rows still gets its sentence. */
const MOST_IMPORT_BYTES = 16 * 1024 * 1024;

/** What can be asked about gear. */
export const GEAR = {
  add: endpoint('POST', '/api/gear', made, gearDraft),
  change: endpoint('PUT', ONE, done, gearChange),
  remove: endpoint('DELETE', ONE, done),
  restore: endpoint('POST', `${ONE}/restore`, done),
  setCurve: endpoint(
    'PUT',
    `${ONE}/curve`,
    z.object({ points: z.int() }),
    curveOrder,
    MOST_CURVE_BYTES,
  ),
  accessories: endpoint('GET', '/api/gear/accessories', found),
  import: endpoint('POST', '/api/gear/import', importPreview, importOrder, MOST_IMPORT_BYTES),
};
