import { db } from '@/platform/database';
import { respond } from '@/platform/route';

/** Whether web and database are well. */
export function GET(request: Request) {
  return respond(request, async () => {
    await db().rows('SELECT 1');
    return { well: true };
  });
}
