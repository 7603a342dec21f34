import { db } from '@/platform/database';
import { openRoute } from '@/platform/engineer-route';
import { HOUSE } from '@/platform/endpoints';

/** Whether web and database are well. */
export const GET = openRoute(HOUSE.well, async () => {
  await db().rows('SELECT 1');
  return { well: true as const };
});
