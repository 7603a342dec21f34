import { z } from 'zod';
import { isDatabaseAway, isStoreFull, STORE_FULL, UserError } from './errors';
import { log } from './log';

const AWAY =
  'The database does not answer just now; nothing that was stored is lost. Try again in a moment.';

/** Status and sentence for whatever went wrong; anything unforeseen is logged and kept general. */
export function failureOf(error: unknown): { status: number; message: string } {
  if (error instanceof UserError) return { status: error.status, message: error.message };
  if (error instanceof z.ZodError) {
    return { status: 400, message: error.issues[0]?.message ?? 'This cannot be read.' };
  }
  if (isDatabaseAway(error)) return { status: 503, message: AWAY };
  if (isStoreFull(error)) return { status: 507, message: STORE_FULL };
  log.error({ err: error }, 'unforeseen');
  return {
    status: 500,
    message: 'Something went wrong here; what was stored before is kept. Try again.',
  };
}
