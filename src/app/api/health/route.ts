import { randomUUID } from 'node:crypto';
import { db } from '@/platform/database';
import { openRoute } from '@/platform/engineer-route';
import { HOUSE } from '@/platform/endpoints';

/** Another one after every start, so that whoever waits for a start knows it. */
const run = randomUUID();

/** Whether web and database are well. */
export const GET = openRoute(HOUSE.well, async () => {
  await db().rows('SELECT 1');
  return { well: true as const, run };
});
